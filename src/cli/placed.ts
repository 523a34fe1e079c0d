import { join } from 'node:path';
import type { TakenOut } from '@/core/placed/placed';
import { PLACED_LIMIT } from '@/core/placed/placed';
import { putPlacedTrial } from '@/core/recipe/placed-work';
import type { PlacedRecipe } from '@/core/recipe/recipe';
import type { Findings } from '@/core/inspect/findings';
import type { Treatment, Work } from '@/core/recipe/work';
import { phasesOf, type StepKind } from '@/core/steps';
import { decodePicture, takeOutPicture } from '@/server/codecs/pictures';
import type { TreatedFile } from '@/server/codecs/shapes/drawing';
import { digestOfFile } from '@/server/files/digest';
import { Problem } from '@/server/problem';
import { renderFile } from '@/server/render/render-file';
import type { Input } from './input';

/** Steps that a command line's cleaning may come to. */
const CLEANS = new Set<StepKind>(['compression', 'noise', 'restore']);

/** A picture that was taken out of a page, with where its pixels lie. */
export interface InputOnPage extends TakenOut {
  file: string;
  raw: string;
}

/** Takes the pictures out of a page of shapes, the largest first; says which stay as they are, and why. */
export async function picturesOnPage({ file, name, findings, folder }: Input) {
  const found: InputOnPage[] = [];
  const pictures = (findings.vector?.pictures ?? [])
    .map((placed, i) => ({ placed, picture: i + 1 }))
    .sort((a, b) => b.placed.widthPt * b.placed.heightPt - a.placed.widthPt * a.placed.heightPt)
    .slice(0, PLACED_LIMIT);
  for (const { placed, picture } of pictures) {
    try {
      if (placed.kept) throw new Problem('input', placed.kept);
      const out = join(folder, `picture-${picture}`);
      await takeOutPicture({ file, name, page: findings.page, picture, out });
      const raw = `${out}.raw`;
      const task = {
        file: out,
        name: `${name}, picture ${picture}`,
        page: 1,
        raw,
        thumbnail: null,
      };
      const decoded = await decodePicture(task);
      const digest = await digestOfFile(out);
      found.push({ picture, digest, findings: decoded.findings, file: out, raw });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      console.error(`Picture ${picture} is drawn as it came. ${error.message}`);
    }
  }
  return found;
}

/**
 * Does to the pictures on a page, in place, what is done to originals: its finishing is the page's.
 * @param cleaningOf what each is cleaned of, where that is chosen for each
 */
export function treatOnPage(
  work: Work,
  pictures: readonly InputOnPage[],
  cleaningOf: ((findings: Findings) => Treatment) | null,
): void {
  const { page } = work.framing;
  for (const trial of work.trials) {
    const phases = phasesOf(trial.treatment);
    const treatment = trial.treatment.filter((_, i) => phases[i] !== 'target');
    const others = treatment.filter(({ kind }) => !CLEANS.has(kind));
    for (const { picture, findings } of pictures) {
      const chosen = cleaningOf ? [...cleaningOf(findings), ...others] : treatment;
      const own = { on: true, treatment: chosen, guards: trial.guards };
      putPlacedTrial(trial, { page, picture }, structuredClone(own));
    }
  }
}

/** Renders the pictures on a page as a recipe has them. */
export async function renderOnPage(
  placed: readonly PlacedRecipe[],
  pictures: readonly InputOnPage[],
  { masks, onProgress }: { masks: string; onProgress: (share: number) => void },
): Promise<TreatedFile[]> {
  const files: TreatedFile[] = [];
  for (const [i, { picture, recipe }] of placed.entries()) {
    const { file, raw } = pictures.find((one) => one.picture === picture)!;
    const out = `${file}.tif`;
    await renderFile({
      original: { file, name: `picture ${picture}`, raw: () => Promise.resolve(raw) },
      ...{ recipe, masks, profile: null, out },
      onProgress: (share) => onProgress((i + share) / placed.length),
    });
    files.push({ picture, file: out });
  }
  return files;
}
