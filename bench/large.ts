// Large results: Lanczos-3 to 127 megapixels beside sharp, memory there and at a billion pixels, and
// how quick a network's enlargement is.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Method } from '../src/core/steps/enlarge/methods';
import { newStep } from '../src/core/recipe/order';
import type { Recipe } from '../src/core/recipe/recipe';
import { REPORT_MS } from '../src/server/tasks/task-process';
import { endThreads } from '../src/server/render/threads';
import { renderFile } from '../src/server/render/render-file';
import { domeAt, recipeFor, rendered, type Picture } from './rendered';
import { figure, finished, median } from './report';

const TIMES = 5;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));

const recipe = (picture: Picture, width: number, height: number, method: Method) =>
  recipeFor(picture, width, height, [newStep('enlarge', { method })]);

function ours(picture: Picture, of: Recipe, times: number) {
  const { seconds, peakMB } = rendered(folder, picture, [of], times);
  return { seconds: seconds[0]!, peakMB };
}

async function theirs({ path }: Picture, { target }: Recipe): Promise<number> {
  const out = join(folder, 'theirs.tif');
  const started = performance.now();
  await sharp(path)
    .resize(target.width, target.height, { fit: 'fill', kernel: 'lanczos3' })
    .tiff({ compression: 'none' })
    .toFile(out);
  const seconds = (performance.now() - started) / 1000;
  await rm(out);
  return seconds;
}

const small = await domeAt(folder, 600, 900);
const large = recipe(small, 9213, 13819, 'lanczos3');
const run = ours(small, large, TIMES + 1);
const other: number[] = [];
for (let i = 0; i < TIMES; i++) other.push(await theirs(small, large));
const mine = median(run.seconds.slice(1));
console.log(
  `Lanczos-3 to 9213 x 13819, uncompressed TIFF: ${mine.toFixed(2)} s; sharp ${median(other).toFixed(2)} s`,
);
figure('time over sharp', mine / median(other), 'x', 0.7);
figure('peak memory at 127 megapixels', run.peakMB, 'MB', 700);

const billion = ours(small, recipe(small, 25_820, 38_730, 'lanczos3'), 1);
console.log(`a billion pixels: ${billion.seconds[0]!.toFixed(0)} s`);
figure('peak memory at a billion pixels', billion.peakMB, 'MB', 700);

const learned = ours(small, recipe(small, 2400, 3600, 'learned-photo'), 4);
const speed = (2400 * 3600) / 1e6 / median(learned.seconds.slice(1));
figure('network for photographs, x4', speed, 'megapixels of result a second', 2, 'least');
figure('peak memory of it', learned.peakMB, 'MB', 700);
const four = await domeAt(folder, 1200, 1800);
const longer = ours(four, recipe(four, 4800, 7200, 'learned-photo'), 2);
figure(
  'its time for four times the pixels, over four times the time',
  longer.seconds[1]! / (4 * median(learned.seconds.slice(1))),
  'x',
  1.15,
);

/** Seconds from the word to cancel until a run has ended and cleaned up, when it is heard at once. */
async function cancelled(picture: Picture, of: Recipe): Promise<number> {
  const stop = new AbortController();
  const making = renderFile({
    original: { file: '', name: 'bench', raw: () => Promise.resolve(picture.raw) },
    recipe: of,
    profile: null,
    out: join(folder, 'cancelled.tif'),
    signal: stop.signal,
  }).catch(() => performance.now());
  // In the middle of a block, once the threads have started.
  await new Promise((resolve) => setTimeout(resolve, 4000));
  const asked = performance.now();
  stop.abort(new Error('cancelled'));
  const ended = await making;
  return typeof ended === 'number' ? (ended - asked) / 1000 : NaN;
}
const stopping = await cancelled(four, recipe(four, 4800, 7200, 'learned-photo'));
await endThreads();
// The render process hears of it at its next report.
figure('a cancelled run of a network has ended', stopping + REPORT_MS / 1000, 's', 1);
await rm(folder, { recursive: true, force: true });
finished();
