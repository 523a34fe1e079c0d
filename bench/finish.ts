// What finishing costs a run at 108 megapixels: five sharpening steps, guarded, and deblurring alone, beside the enlargement alone.
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
const five = [
  newStep('contrast'),
  newStep('highpass'),
  newStep('edges'),
  newStep('unsharp'),
  newStep('paper', { surface: 'canvas' }),
];
const deblur = newStep('deblur', { form: 'gaussian', radius: 0.8 });
const recipes = [[], five, [deblur]].map((steps) =>
  recipeFor(dome, 12_756, 8504, [enlarge, ...steps]),
);

const { seconds } = rendered(folder, dome, recipes, TIMES);
// The first round warms the threads.
const [alone, all, sharp] = seconds.map((one) => median(one.slice(1))) as [number, number, number];
console.log(
  `Lanczos-3 to 12756 x 8504 ${alone.toFixed(2)} s; five finishing steps ${all.toFixed(2)} s; deblurred ${sharp.toFixed(2)} s`,
);
figure('five finishing steps over the enlargement alone', all / alone, 'x', 6);
figure('deblurring over the enlargement alone', sharp / alone, 'x', 5);
figure('peak memory of five', rendered(folder, dome, [recipes[1]!], 1).peakMB, 'MB', 700);
figure('peak memory of deblurring', rendered(folder, dome, [recipes[2]!], 1).peakMB, 'MB', 700);
await rm(folder, { recursive: true, force: true });
finished();
