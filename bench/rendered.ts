// What the benches of runs share: a demo picture at some size, a recipe for it, and a render process.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { Findings } from '../src/core/inspect/findings';
import { testPaper } from '../src/core/testing';
import { propose } from '../src/core/recipe/propose';
import type { Recipe } from '../src/core/recipe/recipe';
import type { Trial, Treatment, Work } from '../src/core/recipe/work';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { originalOf } from '../src/core/recipe/original';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { degradedPath, pictures } from '../demo/pictures';

export interface Picture {
  path: string;
  raw: string;
  findings: Findings;
}

/** The demo dome, decoded as for a run. */
export async function domeIn(folder: string): Promise<Picture> {
  const path = degradedPath(pictures[0]!);
  const raw = join(folder, 'dome.raw');
  const { findings } = await decode(decodeTask(path, raw));
  return { path, raw, findings };
}

/** The same at another size, without compression. */
export async function domeAt(folder: string, width: number, height: number): Promise<Picture> {
  const path = join(folder, `${width}.png`);
  await sharp(degradedPath(pictures[0]!))
    .resize(width, height, { fit: 'cover' })
    .png()
    .toFile(path);
  const raw = join(folder, `${width}.raw`);
  const { findings } = await decode(decodeTask(path, raw));
  return { path, raw, findings };
}

/** A treatment to so many pixels. */
export function recipeFor(
  { findings }: Picture,
  width: number,
  height: number,
  treatment: Treatment,
  more: (work: Work, trial: Trial) => void = () => {},
): Recipe {
  const px = (value: number) => ({ value, unit: 'px' as const });
  const paper = testPaper({ width: px(width), height: px(height), fit: 'stretch' });
  const { work } = propose(findings, { paper, distance: 3, ppi: 130 });
  const trial = work.trials[0]!;
  trial.treatment = treatment;
  more(work, trial);
  const resolved = resolveRecipe(originalOf('bench', findings), work, trial);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

/** Renders in a process of its own, as often as asked. */
export function rendered(
  folder: string,
  { raw }: Picture,
  recipes: readonly Recipe[],
  times: number,
): { seconds: number[][]; peakMB: number } {
  const task = { raw, out: join(folder, 'ours.out'), recipes, times };
  const worker = fileURLToPath(new URL('./render-worker.ts', import.meta.url));
  const text = execFileSync(process.execPath, ['--import', 'tsx', worker], {
    input: JSON.stringify(task),
    // Threads as they ship.
    env: process.env,
  });
  return JSON.parse(text.toString());
}
