// Long chains at 108 megapixels: three unsharp masks after the enlargement, beside the enlargement alone, and
// the same at four times the pixels.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newStep } from '../src/core/recipe/order';
import { domeIn, recipeFor, rendered } from './rendered';
import { figure, finished, median } from './report';

const TIMES = 4;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const dome = await domeIn(folder);
const enlarge = newStep('enlarge', { method: 'lanczos3' });
const masks = [40, 20, 6].map((radius) =>
  newStep('unsharp', { radius, unit: 'px', amount: 60, threshold: 1 }),
);
const recipe = (times: number, masked: boolean) =>
  recipeFor(dome, 12_756 * times, 8504 * times, masked ? [enlarge, ...masks] : [enlarge]);

const { seconds } = rendered(folder, dome, [recipe(1, false), recipe(1, true)], TIMES);
// The first round warms the threads.
const [alone, chain] = seconds.map((all) => median(all.slice(1))) as [number, number];
const { peakMB } = rendered(folder, dome, [recipe(1, true)], 1);
console.log(
  `Lanczos-3 to 12756 x 8504 ${alone.toFixed(2)} s; with unsharp masks of 40, 20 and 6 px ${chain.toFixed(2)} s`,
);
figure('the chain over the enlargement alone', chain / alone, 'x', 4);
figure('peak memory of it', peakMB, 'MB', 700);
const four = rendered(folder, dome, [recipe(2, true)], 1);
console.log(`the chain at 4 x the pixels: ${four.seconds[0]![0]!.toFixed(1)} s`);
figure('its time over four times the time', four.seconds[0]![0]! / (4 * chain), 'x', 1.15);
figure('peak memory of that', four.peakMB, 'MB', 700);
await rm(folder, { recursive: true, force: true });
finished();
