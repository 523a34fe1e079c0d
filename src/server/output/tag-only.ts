import type { Recipe } from '@/core/recipe/recipe';
import { complaints, readDescription } from './described';
import { decodedRows } from './pixels';
import { retagJpeg } from './retag-jpeg';
import { rowSum, type SampleForm } from './samples';
import type { Verified } from './result-writer';

/** A result that is the original's own file with another size tag. */
export interface ToTag {
  original: string;
  recipe: Recipe;
  /** what it carries, the original's own or not */
  profile: Uint8Array | null;
  out: string;
  signal?: AbortSignal | undefined;
}

/** Writes it, and reads it back: every pixel has to be the original's. */
export async function tagOnly({
  original,
  recipe,
  profile,
  out,
  signal,
}: ToTag): Promise<Verified> {
  const { ppi, width, height } = recipe.target;
  const added = await retagJpeg(original, out, { ppi, profile });
  const found = await readDescription(out, 'jpeg');
  // A file that is shown turned says so in a tag, and holds its pixels as they were taken.
  const turned = found.width === height && found.height === width;
  const size = turned ? { width: height, height: width } : { width, height };
  const wrong = complaints(found, { size, ppi, profile: added ? profile : found.profile }, 'jpeg');
  const form: SampleForm = { size: found, depth: 8, channels: 3, space: 'rgb' };
  const same = await samePixels(original, out, form, signal);
  return {
    found: { ...found, width, height },
    complaints: same ? wrong : [...wrong, 'Its pixels are not the original’s.'],
  };
}

async function samePixels(
  one: string,
  other: string,
  form: SampleForm,
  signal?: AbortSignal,
): Promise<boolean> {
  const sums = async (path: string, beside: string) => {
    const rows: number[] = [];
    for await (const { row } of decodedRows(path, form, signal, beside)) rows.push(rowSum(row));
    return rows;
  };
  const [first, second] = [await sums(one, `${other}.was`), await sums(other, `${other}.is`)];
  return first.length === form.size.height && first.every((sum, y) => sum === second[y]);
}
