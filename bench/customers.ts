// What automatic treatment gains on files as customers send them: photographs that no model has learnt from, reduced to a
// third, damaged in ways that programs other than ours do, and enlarged again; over plain bicubic of the same file.
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { psnr } from '../src/core/inspect/compare';
import type { Findings } from '../src/core/inspect/findings';
import { happenedTo } from '../src/core/inspect/happened';
import type { History } from '../src/core/inspect/history';
import { networksFrom } from '../src/core/learned/networks';
import { whole } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import type { Raster } from '../src/core/raster/raster';
import { withoutFinish } from '../src/core/recipe/finish';
import { newStep } from '../src/core/recipe/order';
import { originalOf } from '../src/core/recipe/original';
import { propose } from '../src/core/recipe/propose';
import { resolveRecipe } from '../src/core/recipe/resolve';
import type { Treatment } from '../src/core/recipe/work';
import { beforeEnlarging } from '../src/core/recipe/views';
import { Kept } from '../src/core/render/kept';
import { render } from '../src/core/render/render';
import { random, testPaper } from '../src/core/testing';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { modelBytes } from '../src/server/files/models';
import { drawing, FAMILIES } from '../training/enlarge/drawings';
import { damages, pixels } from './damages';
import { heldOut } from './photographs';
import { figure, finished } from './report';

const FACTOR = 3;
const SMALL = { width: 200, height: 200 };
const LARGE = { width: FACTOR * SMALL.width, height: FACTOR * SMALL.height };
/** The network sees this much of a rim that nothing is beyond; it is left out. */
const RIM = 24;

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const network = networksFrom(modelBytes);

const raw = { raw: { ...SMALL, channels: 3 as const } };
const WAYS = damages(SMALL, LARGE);

/** What truly happened in each way, besides compression; of a mix it is not asked. */
const TRUE: Record<string, readonly (keyof History)[]> = {
  perfect: [],
  soft: ['blur'],
  phone: ['blur', 'noise'],
  twice: ['resized'],
  grain: ['noise', 'grain'],
  sharpened: ['sharpening'],
};
const said = { right: 0, wrong: 0, missed: 0 };

/** Counts what is said of a file that happened to it and didn't, and what did and isn't said. */
function judge(way: string, findings: Findings): string {
  const { history } = findings;
  const truly = TRUE[way];
  if (!truly || !history) return '';
  const told = happenedTo(history, findings).filter(({ of }) => of !== 'quality');
  for (const { of } of told) said[truly.includes(of) ? 'right' : 'wrong']++;
  said.missed += truly.filter((of) => of !== 'grain' && !told.some((one) => one.of === of)).length;
  return told.map(({ of, figure: by }) => `${of} ${by}`).join(', ');
}

/**
 * What a file becomes, without what is done for paper.
 * @param how as it is proposed, as far as it is cleaned, or plainly enlarged with nothing cleaned
 */
async function printed(
  path: string,
  how: 'proposed' | 'cleaned' | 'bicubic',
): Promise<{ result: Raster; steps: string; findings: Findings }> {
  const decoded = `${path}.raw`;
  const { findings } = await decode(decodeTask(path, decoded));
  const px = (value: number) => ({ value, unit: 'px' as const });
  const paper = testPaper({ width: px(LARGE.width), height: px(LARGE.height), fit: 'stretch' });
  const { work } = propose(findings, { paper, distance: 2, ppi: 150 });
  const trial = work.trials[0]!;
  const treatment: Treatment =
    how === 'bicubic'
      ? [newStep('enlarge', { method: 'bicubic' })]
      : withoutFinish(trial.treatment);
  const resolved = resolveRecipe(originalOf('bench', findings), work, {
    ...trial,
    treatment,
  });
  if (!resolved.ok) throw new Error(resolved.reason);
  const source = await openRaw(decoded);
  try {
    const recipe = how === 'cleaned' ? beforeEnlarging(resolved.recipe, true) : resolved.recipe;
    const { read, size } = render(source, recipe, { network, store: new Kept(1 << 27) });
    const steps = recipe.steps.map(({ kind }) => kind).join(' ');
    return { result: await read(whole(size)), steps, findings };
  } finally {
    await source.close();
    await rm(decoded, { force: true });
  }
}

/** R, G, B but for the rim, rounded as they are written. */
function inner(found: Raster): Float32Array {
  const { width, height } = found;
  const written = fromSamples(toSamples(found, 8) as Uint8Array, width, height, 3, 8);
  const values: number[] = [];
  for (const plane of written.planes)
    for (let y = RIM; y < height - RIM; y++)
      for (let x = RIM; x < width - RIM; x++) values.push(plane[y * width + x]!);
  return Float32Array.from(values);
}

const gains: Record<string, number[]> = Object.fromEntries(
  Object.keys(WAYS).map((way) => [way, []]),
);
const kept: number[] = [];
for (const [at, photograph] of heldOut().entries()) {
  const { width, height } = await sharp(photograph).metadata();
  const place = { left: (width - LARGE.width) >> 1, top: (height - LARGE.height) >> 1 };
  const truth = await pixels(sharp(photograph).extract({ ...place, ...LARGE }));
  const large = inner(fromSamples(truth, LARGE.width, LARGE.height, 3, 8));
  const small = await pixels(
    sharp(truth, { raw: { ...LARGE, channels: 3 } }).resize({ ...SMALL, kernel: 'cubic' }),
  );
  const perfect = join(folder, `${at}.png`);
  await writeFile(perfect, await sharp(small, raw).png().toBuffer());
  const cleaned = await printed(perfect, 'cleaned');
  const original = fromSamples(small, SMALL.width, SMALL.height, 3, 8);
  kept.push(psnr(inner(cleaned.result), inner(original)));
  console.log(
    `${at} perfect    ${kept.at(-1)!.toFixed(2)}  ${cleaned.steps} ${judge('perfect', cleaned.findings)}`,
  );
  for (const [way, damage] of Object.entries(WAYS)) {
    const path = join(folder, `${at} ${way}.jpg`);
    await writeFile(path, await damage(small, random(at + 1), truth));
    const before = psnr(inner((await printed(path, 'bicubic')).result), large);
    const { result, steps, findings } = await printed(path, 'proposed');
    const gain = psnr(inner(result), large) - before;
    gains[way]!.push(gain);
    console.log(
      `${`${at} ${way}`.padEnd(12)} ${before.toFixed(2)} ${gain.toFixed(2).padStart(6)}  ${steps}  ${judge(way, findings)}`,
    );
  }
}
const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
for (const [way, of] of Object.entries(gains)) {
  figure(`automatic treatment over bicubic at x3, ${way}`, mean(of), 'dB', 0.35, 'least');
}
figure('of what is said to have happened, wrong', said.wrong / (said.right + said.wrong), '', 0.1);
console.log(
  `what happened: ${said.right} said, ${said.missed} not said, ${said.wrong} said that did not`,
);
figure('a perfect file, cleaned automatically, the least', Math.min(...kept), 'dB', 45, 'least');
figure('on the mean', mean(Object.values(gains).map(mean)), 'dB', 0.7, 'least');

// Drawings on flat colours, in fonts that nothing was taught on: what is cleaned, with its ground made even and without.
const SIDE = 320;
const DRAWINGS = 10;
const square = { width: SIDE, height: SIDE };

/** Pixels of the truth about which all is alike. */
function flatIn(drawn: Uint8Array): number[] {
  const alike = (i: number, j: number) =>
    [0, 1, 2].every((c) => drawn[3 * i + c] === drawn[3 * j + c]);
  const about = [-1, 0, 1].flatMap((v) => [-1, 0, 1].map((u) => v * SIDE + u));
  return Array.from({ length: SIDE * SIDE }, (_, i) => i).filter((i) => {
    const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
    if (Math.min(x, y) < 1 || Math.max(x, y) > SIDE - 2) return false;
    return about.every((by) => alike(i, i + by));
  });
}

for (const quality of [60, 80]) {
  const better: number[] = [];
  const exact: Record<'before' | 'after', number[]> = { before: [], after: [] };
  for (let n = 0; n < DRAWINGS; n++) {
    const drawn = new Uint8Array(await drawing(random(100 + n), SIDE, FAMILIES['held-out']));
    const path = join(folder, `drawing ${n}.jpg`);
    await sharp(drawn, { raw: { ...square, channels: 3 } })
      .jpeg({ quality })
      .toFile(path);
    const { findings } = await decode(decodeTask(path, `${path}.raw`));
    if (findings.grounds.length === 0) continue;
    const cleaned = async (steps: Treatment) => {
      const px = (value: number) => ({ value, unit: 'px' as const });
      const paper = testPaper({ width: px(3 * SIDE), height: px(3 * SIDE), fit: 'stretch' });
      const { work } = propose(findings, { paper, distance: 2, ppi: 150 });
      const treatment = [newStep('compression'), ...steps, newStep('enlarge')];
      const trial = { ...work.trials[0]!, treatment };
      const resolved = resolveRecipe(originalOf('bench', findings), work, trial);
      if (!resolved.ok) throw new Error(resolved.reason);
      const source = await openRaw(`${path}.raw`);
      const recipe = beforeEnlarging(resolved.recipe, true);
      const found = await render(source, recipe, { network, store: new Kept(1 << 26) }).read(
        whole(square),
      );
      await source.close();
      return toSamples(found, 8) as Uint8Array;
    };
    const before = await cleaned([]);
    const after = await cleaned([newStep('ground')]);
    const of = (bytes: Uint8Array) => Float32Array.from(bytes, (level) => level / 255);
    better.push(psnr(of(after), of(drawn)) - psnr(of(before), of(drawn)));
    const flat = flatIn(drawn);
    const share = (bytes: Uint8Array) =>
      flat.filter((i) =>
        [0, 1, 2].every((c) => Math.abs(bytes[3 * i + c]! - drawn[3 * i + c]!) <= 1),
      ).length / flat.length;
    exact.before.push(share(before));
    exact.after.push(share(after));
  }
  const of = `of ${better.length} drawings at JPEG ${quality}`;
  console.log(
    `${of}: within a level on flat colours ${mean(exact.before).toFixed(2)} -> ${mean(exact.after).toFixed(2)}`,
  );
  figure(`even ground, ${of}, on the mean`, mean(better), 'dB', 0, 'least');
  figure(`… the least`, Math.min(...better), 'dB', 0, 'least');
}
await rm(folder, { recursive: true, force: true });
finished();
