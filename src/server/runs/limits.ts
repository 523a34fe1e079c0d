import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import { formatBytes } from '@/core/measure/format';
import { formatRefusal } from '@/core/measure/formats';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { Problem } from '../problem';
import { begunBytes, begunPictures } from './begun-file';

/**
 * Whether the format and the disk can hold a result, before any of it is computed.
 * @param bytes of the result as a TIFF, with all that is made on the way
 * @throws Problem that says what works
 */
export async function refuseTooLarge(recipe: SettledRecipe, out: string, bytes: number) {
  const { format } = recipe.output;
  const refused = formatRefusal(format, recipe.target, recipe.target.ppi);
  if (refused) throw new Problem('usage', refused);
  await refuseFullDisk(out, bytes * (format === 'tiff' ? 1 : 2));
}

/** Bytes that a result takes as a TIFF, with the begun pictures that are made before it. */
export function neededBytes(recipe: SettledRecipe): number {
  const channels = recipe.alpha === 'kept' ? 4 : 3;
  const { width, height } = recipe.target;
  const begun = begunPictures(recipe, channels).reduce(
    (sum, layout) => sum + begunBytes(layout),
    0,
  );
  return begun + width * height * channels * (recipe.output.depth / 8);
}

/** @throws Problem where the disk of a path has less room than is needed */
export async function refuseFullDisk(out: string, needed: number): Promise<void> {
  const { bavail, bsize } = await statfs(dirname(out));
  if (needed <= bavail * bsize) return;
  throw new Problem(
    'work',
    `The result needs ${formatBytes(needed)} on disk, ${formatBytes(bavail * bsize)} are free. Free some space or order fewer ppi.`,
  );
}
