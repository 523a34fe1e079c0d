// Whether what is said of a network's result after Restore tells how far off it is, cell by cell: fitted on the photographs
// of training/faces/pictures.py, which no network has learnt from, measured on those that are held out.
import { existsSync, readdirSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { CALIBRATIONS } from '../src/core/evidence/calibrations';
import { expectedOff, INVENTED_CELL, rmsIn, signsIn } from '../src/core/evidence/invented';
import { UPSCALING } from '../src/core/learned/enlarger';
import { networksFrom } from '../src/core/learned/networks';
import { luminance } from '../src/core/raster/colour';
import { cells, whole } from '../src/core/raster/region';
import { fromSamples } from '../src/core/raster/samples';
import { originalOf } from '../src/core/recipe/original';
import { newStep } from '../src/core/recipe/order';
import { propose } from '../src/core/recipe/propose';
import type { Recipe } from '../src/core/recipe/recipe';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { upscalingOf } from '../src/core/recipe/views';
import { Kept } from '../src/core/render/kept';
import { render } from '../src/core/render/render';
import { random, testPaper } from '../src/core/testing';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { modelBytes } from '../src/server/files/models';
import { calibrated, type Cell } from './calibrate';
import { damages, pixels, type Damage } from './damages';
import { heldOut } from './photographs';
import { figure, finished, median, missing } from './report';

const SMALL = { width: 144, height: 144 };
const LARGE = { width: UPSCALING * SMALL.width, height: UPSCALING * SMALL.height };
/** What lies nearer to the rim is left out: nothing is beyond it. */
const RIM = 32;
/** Photographs of which the fit learns are reduced until their shorter side is this. */
const REDUCED = 900;
const OTHERS = 'training/.data/faces';

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const network = networksFrom(modelBytes);
const ways = Object.entries(damages(SMALL, LARGE));
const raw = { raw: { ...LARGE, channels: 3 as const } };

/** R, G, B of a photograph's middle; null where it is too small. */
async function middleOf(path: string, shortest = Infinity): Promise<Buffer | null> {
  const { width, height } = await sharp(path).metadata();
  const share = Math.min(1, shortest / Math.min(width, height));
  const size = { width: Math.round(width * share), height: Math.round(height * share) };
  if (size.width < LARGE.width || size.height < LARGE.height) return null;
  const left = (size.width - LARGE.width) >> 1;
  const top = (size.height - LARGE.height) >> 1;
  const reduced = await sharp(path).removeAlpha().resize(size.width, size.height).png().toBuffer();
  return pixels(sharp(reduced).extract({ left, top, ...LARGE }));
}

/** What is told of every cell of a picture that was damaged and restored, and how far off it is. */
async function cellsOf(truth: Buffer, damage: Damage, seed: number): Promise<Cell[]> {
  const small = await pixels(sharp(truth, raw).resize({ ...SMALL, kernel: 'cubic' }));
  const path = join(folder, 'file.jpg');
  await writeFile(path, await damage(small, random(seed), truth));
  const { findings } = await decode(decodeTask(path, `${path}.raw`));
  const px = (value: number) => ({ value, unit: 'px' as const });
  const paper = testPaper({ width: px(LARGE.width), height: px(LARGE.height), fit: 'stretch' });
  const { work } = propose(findings, { paper, distance: 2, ppi: 150 });
  const treatment = [newStep('restore'), newStep('enlarge', { method: 'learned-photo' })];
  const resolved = resolveRecipe(originalOf('bench', findings), work, {
    ...work.trials[0]!,
    treatment,
  });
  if (!resolved.ok) throw new Error(resolved.reason);
  const { learned, plain, severity } = upscalingOf(resolved.recipe)!;
  const source = await openRaw(`${path}.raw`);
  const all = whole(LARGE);
  const luminanceOf = async (recipe: Recipe) =>
    luminance(await render(source, recipe, { network, store: new Kept(1 << 27) }).read(all));
  const [found, without] = [await luminanceOf(learned), await luminanceOf(plain)];
  await source.close();
  await rm(`${path}.raw`);
  const right = luminance(fromSamples(truth, LARGE.width, LARGE.height, 3, 8));
  const inside = (at: number, length: number, side: number) =>
    at >= RIM && at + length <= side - RIM;
  return cells(all, INVENTED_CELL * UPSCALING, LARGE)
    .filter(
      ({ x, y, width, height }) => inside(x, width, LARGE.width) && inside(y, height, LARGE.height),
    )
    .map((cell) => ({
      signs: signsIn(cell, all, without, found, severity),
      off: rmsIn(cell, all, right, found),
    }));
}

const told: Cell[][] = [];
for (const [i, name] of (existsSync(OTHERS) ? readdirSync(OTHERS) : []).entries()) {
  const truth = await middleOf(join(OTHERS, name), REDUCED);
  if (truth) told.push(await cellsOf(truth, ways[i % ways.length]![1], i + 1));
}
if (told.length === 0) missing('no photographs to fit on: python3 training/faces/pictures.py');
else {
  const { weights, offByScore } = calibrated(told);
  const digits = (value: number) => Number(value.toFixed(2));
  const fitted = {
    weights: weights.map(digits),
    offByScore: offByScore.map((one) => one.map(digits)),
  };
  console.log(`on ${told.length} photographs:`, JSON.stringify(fitted));
}

const by = CALIBRATIONS.restored;
const ratios: number[] = [];
for (const photograph of heldOut()) {
  const truth = (await middleOf(photograph))!;
  for (const [i, [way, damage]] of ways.entries()) {
    const own = await cellsOf(truth, damage, i + 1);
    const each = own.map(({ signs, off }) => Math.max(0.05, off) / expectedOff(signs, by));
    ratios.push(...each);
    console.log(`        ${way}: off over what is said ${median(each).toFixed(2)}`);
  }
}
const middle = median(ratios);
figure(
  'restored: levels off against what is said, in the middle',
  Math.max(middle, 1 / middle),
  'x',
  1.4,
);
figure(
  'half of all cells are off as is said within, as the ticket says',
  Math.exp(median(ratios.map((ratio) => Math.abs(Math.log(ratio))))),
  'x',
  by.usuallyWithin,
);
await rm(folder, { recursive: true, force: true });
finished();
