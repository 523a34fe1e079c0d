// Time and memory of a run: Lanczos-3 from 720 x 480 to 38 megapixels, beside sharp and Pillow on the same cores.
import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { newStep } from '../src/core/recipe/order';
import { propose } from '../src/core/recipe/propose';
import type { Recipe } from '../src/core/recipe/recipe';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { originalOf } from '../src/core/recipe/original';
import { pictures } from '../demo/pictures';
import { domeIn, rendered } from './rendered';
import { figure, finished, median, missing } from './report';

const TIMES = 5;
const dome = pictures[0]!;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const picture = await domeIn(folder);

function recipe(ppi: number, whole: boolean): Recipe {
  const { work } = propose(picture.findings, { paper: dome.paper, distance: dome.distance });
  const trial = work.trials[0]!;
  trial.ppi = ppi;
  if (!whole) {
    trial.treatment = [newStep('enlarge', { method: 'lanczos3' })];
  }
  const resolved = resolveRecipe(originalOf('bench', picture.findings), work, trial);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

function ours(of: Recipe, times: number): { seconds: number[]; peakMB: number } {
  const { seconds, peakMB } = rendered(folder, picture, [of], times);
  return { seconds: seconds[0]!, peakMB };
}

async function theirs(of: Recipe): Promise<number> {
  const { width, height } = of.target;
  const started = performance.now();
  await sharp(picture.path)
    .resize(width, height, { fit: 'fill', kernel: 'lanczos3' })
    .tiff({ compression: 'none' })
    .toFile(join(folder, 'theirs.tif'));
  return (performance.now() - started) / 1000;
}

/** Seconds of Pillow for the same, file and all, without its start; null where it is not installed. */
function pillow(of: Recipe): number | null {
  const { width, height } = of.target;
  const program = `
import sys, time
from PIL import Image
started = time.perf_counter()
Image.open(sys.argv[1]).convert("RGB").resize((${width}, ${height}), Image.LANCZOS).save(sys.argv[2])
print(time.perf_counter() - started)`;
  const words = ['-c', program, picture.path, join(folder, 'pillow.tif')];
  const { status, stdout } = spawnSync('/usr/bin/python3', words, { encoding: 'utf8' });
  return status === 0 ? Number(stdout) : null;
}

const once = recipe(160, false);
const run = ours(once, TIMES);
const other: number[] = [];
const third: number[] = [];
for (let i = 0; i < TIMES; i++) {
  other.push(await theirs(once));
  const seconds = pillow(once);
  if (seconds !== null) third.push(seconds);
}
const mine = median(run.seconds);
const words = third.length > 0 ? `, Pillow ${median(third).toFixed(2)} s` : '';
console.log(
  `Lanczos-3 to 7559 x 5039: ${mine.toFixed(2)} s (the first ${run.seconds[0]!.toFixed(2)} s); sharp ${median(other).toFixed(2)} s${words}`,
);
if (third.length > 0) figure('time over Pillow', mine / median(third), 'x', 1.5);
else missing('Pillow is not here to be compared with: apt-get install python3-pil');
figure('time over sharp', mine / median(other), 'x', 1.5);

const single = ours(once, 1);
const doubled = ours(recipe(160 * Math.SQRT2, false), 1);
figure('peak memory of the render process', single.peakMB, 'MB', 600);
figure('peak memory when the output doubles', doubled.peakMB / single.peakMB, 'x', 1.2);

const treated = ours(recipe(160, true), 2);
console.log(
  `the whole proposed treatment: ${treated.seconds[1]!.toFixed(2)} s, ${treated.peakMB.toFixed(0)} MB`,
);
await rm(folder, { recursive: true, force: true });
finished();
