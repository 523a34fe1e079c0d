// What files cost at 127 megapixels: formats beside a plain TIFF, a conversion to CMYK, reading back, and memory.
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { SHIPPED } from '../src/core/colour/profiles';
import { formatBytes } from '../src/core/measure/format';
import type { Compression, Format } from '../src/core/output/formats';
import { packedBy, usualOutput, type Output } from '../src/core/output/output';
import { USUAL_PANELS } from '../src/core/output/panels';
import { newStep } from '../src/core/recipe/order';
import type { Recipe } from '../src/core/recipe/recipe';
import { differingRows, tiffRows } from '../src/server/output/pixels';
import { rowSum, type RowSums, type SampleForm } from '../src/server/output/samples';
import { domeAt, recipeFor, rendered } from './rendered';
import { figure, finished, median } from './report';

const TIMES = 3;
const size = { width: 9213, height: 13_819 };
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const picture = await domeAt(folder, 600, 900);

const coated = SHIPPED['coated.icc'];
const colour: Output['colour'] = {
  ...{ profile: coated.digest, space: coated.space, intent: 'relative', blackPoint: true },
};

function recipe(format: Format, compression: Compression, change: Partial<Output> = {}): Recipe {
  const plainly = [newStep('enlarge', { method: 'lanczos3' })];
  return recipeFor(picture, size.width, size.height, plainly, (_, trial) => {
    trial.output = { ...packedBy(usualOutput(format, 8), compression), ...change };
  });
}

/** Seconds of a run, whole: computed, written, read back. */
async function ours(what: string, of: Recipe): Promise<number> {
  const { seconds, peakMB } = rendered(folder, picture, [of], TIMES);
  const { size: bytes } = await stat(join(folder, 'ours.out'));
  const time = median(seconds[0]!);
  console.log(`${what}: ${time.toFixed(2)} s, ${formatBytes(bytes)}`);
  figure(`peak memory of ${what}`, peakMB, 'MB', 700);
  return time;
}

/** Seconds of sharp for the same enlargement, deflated by differences, without reading it back. */
async function theirs(): Promise<number> {
  const out = join(folder, 'theirs.tif');
  const started = performance.now();
  await sharp(picture.path)
    .resize(size.width, size.height, { fit: 'fill', kernel: 'lanczos3' })
    .tiff({ compression: 'deflate', predictor: 'horizontal' })
    .toFile(out);
  const seconds = (performance.now() - started) / 1000;
  const { size: bytes } = await stat(out);
  console.log(`sharp's deflate TIFF: ${seconds.toFixed(2)} s, ${formatBytes(bytes)}`);
  await rm(out);
  return seconds;
}

/** Seconds that it takes to read a plain TIFF back and compare every row of it. */
async function readBack(path: string): Promise<number> {
  const form: SampleForm = { size, depth: 8, channels: 3, space: 'rgb' };
  const sums: RowSums = {
    part: { x: 0, y: 0, ...size },
    sums: new Uint32Array(size.height),
  };
  for await (const { y, row } of tiffRows(path, form)) sums.sums[y] = rowSum(row);
  const started = performance.now();
  const differing = await differingRows(tiffRows(path, form), form, [sums]);
  if (differing > 0) throw new Error('the file is not read as it was just read');
  return (performance.now() - started) / 1000;
}

const plain = await ours('a plain TIFF', recipe('tiff', 'none'));
const check = await readBack(join(folder, 'ours.out'));
figure('reading it back and checking it, over making it', check / (plain - check), 'x', 0.5);

const deflated = await ours('a deflate TIFF', recipe('tiff', 'deflate'));
const sharps: number[] = [];
for (let i = 0; i < TIMES; i++) sharps.push(await theirs());
figure('a deflate TIFF over sharp', deflated / median(sharps), 'x', 1.5);
await ours('an LZW TIFF', recipe('tiff', 'lzw'));

const pdf = await ours('a PDF', recipe('pdf', 'deflate'));
figure('a PDF over the deflate TIFF', pdf / deflated, 'x', 1.2);

const cmyk = await ours('a plain TIFF in CMYK', recipe('tiff', 'none', { colour }));
figure('conversion to CMYK, over the run without', cmyk / plain, 'x', 2.5);

const panels = { ...USUAL_PANELS, as: 'files', widest: 500 } as const;
const apart = await ours('panels in a ZIP', recipe('tiff', 'deflate', { panels }));
figure('panels in a ZIP over the deflate TIFF', apart / deflated, 'x', 2);

await ours('a PNG', recipe('png', 'deflate'));
await ours('a JPEG', recipe('jpeg', 'lossy'));
await ours('a PDF with a JPEG in CMYK', recipe('pdf', 'lossy', { colour }));
await ours('a dithered deflate TIFF', recipe('tiff', 'deflate', { dither: 'always' }));
await ours('a WebP', recipe('webp', 'lossy'));
await rm(folder, { recursive: true, force: true });
finished();
