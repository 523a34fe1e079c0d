// What automatic cleaning gains on photographs that were saved as JPEG twice, coarsely first, with the earlier compression
// told and without; on the same grid, and cropped in between. How often it is told, and of files saved once wrongly.
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { psnr } from '../src/core/inspect/compare';
import type { Findings } from '../src/core/inspect/findings';
import { networksFrom } from '../src/core/learned/networks';
import { whole, type Size } from '../src/core/raster/region';
import { toSamples } from '../src/core/raster/samples';
import { originalOf } from '../src/core/recipe/original';
import { propose } from '../src/core/recipe/propose';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { beforeEnlarging } from '../src/core/recipe/views';
import { Kept } from '../src/core/render/kept';
import { render } from '../src/core/render/render';
import { testPaper } from '../src/core/testing';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { modelBytes } from '../src/server/files/models';
import { heldOut } from './photographs';
import { figure, finished } from './report';

const SIDE = 640;
const QUALITIES = [
  [40, 75],
  [50, 90],
  [60, 80],
  [70, 92],
  [75, 85],
] as const;
const CROPPED = { left: 3, top: 6 };

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const network = networksFrom(modelBytes);
const of = (bytes: Uint8Array) => Float32Array.from(bytes, (level) => level / 255);
const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/** What a decoded file becomes on its own grid by what is proposed. */
async function cleaned(raw: string, findings: Findings, size: Size): Promise<Float32Array> {
  const px = (value: number) => ({ value, unit: 'px' as const });
  const paper = testPaper({
    width: px(2 * size.width),
    height: px(2 * size.height),
    fit: 'stretch',
  });
  const { work } = propose(findings, { paper, distance: 2, ppi: 150 });
  const resolved = resolveRecipe(originalOf('bench', findings), work, work.trials[0]!);
  if (!resolved.ok) throw new Error(resolved.reason);
  const source = await openRaw(raw);
  const recipe = beforeEnlarging(resolved.recipe, true);
  const found = await render(source, recipe, { network, store: new Kept(1 << 27) }).read(
    whole(size),
  );
  await source.close();
  return of(toSamples(found, 8) as Uint8Array);
}

async function read(path: string) {
  await rm(`${path}.raw`, { force: true });
  return (await decode(decodeTask(path, `${path}.raw`))).findings;
}

const told = { right: 0, wrong: 0, asked: 0, once: 0, onceWrongly: 0 };
const gains = { told: [] as number[], untold: [] as number[] };
for (const [at, photograph] of heldOut().entries()) {
  const { width, height } = await sharp(photograph).metadata();
  const side = Math.floor(Math.min(SIDE, width, height) / 8) * 8;
  const middle = {
    left: (width - side) >> 1,
    top: (height - side) >> 1,
    width: side,
    height: side,
  };
  const perfect = await sharp(photograph).extract(middle).removeAlpha().png().toBuffer();
  for (const crop of [{ left: 0, top: 0 }, CROPPED]) {
    const size = { width: side - crop.left, height: side - crop.top };
    const truth = of(
      await sharp(perfect)
        .extract({ ...crop, ...size })
        .raw()
        .toBuffer(),
    );
    for (const [first, second] of QUALITIES) {
      const once = await sharp(perfect).jpeg({ quality: first }).toBuffer();
      const file = await sharp(once)
        .extract({ ...crop, ...size })
        .jpeg({ quality: second })
        .toBuffer();
      const path = join(folder, `${at} ${crop.left} ${first}.jpg`);
      await writeFile(path, file);
      const findings = await read(path);
      const before = findings.compressedBefore;
      told.asked++;
      const right =
        before?.x === (8 - crop.left) % 8 &&
        before.y === (8 - crop.top) % 8 &&
        Math.abs(before.quality - first) <= 3;
      if (before) told[right ? 'right' : 'wrong']++;
      const given = psnr(of(await sharp(file).raw().toBuffer()), truth);
      for (const way of ['told', 'untold'] as const) {
        const known = way === 'told' ? findings : { ...findings, compressedBefore: null };
        gains[way].push(psnr(await cleaned(`${path}.raw`, known, size), truth) - given);
      }
    }
  }
  for (const quality of [50, 70, 85, 95]) {
    const path = join(folder, `${at} once ${quality}.jpg`);
    await writeFile(path, await sharp(perfect).jpeg({ quality }).toBuffer());
    told.once++;
    if ((await read(path)).compressedBefore) told.onceWrongly++;
  }
}
console.log(`        of ${told.asked} saved twice: ${told.right} told right, ${told.wrong} wrong`);
console.log(`        without it cleaning gained ${mean(gains.untold).toFixed(2)} dB on the mean`);
figure(
  'of what is told of earlier compression, wrong',
  told.wrong / (told.right + told.wrong),
  '',
  0.1,
);
figure(`of ${told.once} saved once, told wrongly`, told.onceWrongly / told.once, '', 0.1);
figure('cleaned, over the file saved twice, on the mean', mean(gains.told), 'dB', 0.35, 'least');
await rm(folder, { recursive: true, force: true });
finished();
