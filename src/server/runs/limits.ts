import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import { formatBytes } from '@/core/measure/format';
import { formatRefusal } from '@/core/measure/formats';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { scheduleOf } from '@/core/render/schedule';
import { Problem } from '../problem';
import { scratchBytes, scratchFor, type ScratchFile } from './scratch-file';

/**
 * Whether the format and the disk can hold a result, before any of it is computed.
 * @param scratch what is materialised on the way; as the recipe's schedule says unless it is given
 * @throws Problem that says what works
 */
export async function refuseTooLarge(
  recipe: Recipe,
  out: string,
  scratch: readonly ScratchFile[] = scratchOf(recipe),
): Promise<void> {
  const { format, depth } = recipe.output;
  const { width, height, ppi } = recipe.target;
  const refused = formatRefusal(format, recipe.target, ppi);
  if (refused) throw new Problem('usage', refused);
  const channels = recipe.alpha === 'kept' ? 4 : 3;
  const tiff = width * height * channels * (depth / 8);
  // The result itself, and its pixels once more while they are read back.
  const files = format === 'tiff' ? 2 * tiff : 3 * tiff;
  await refuseFullDisk(out, files + scratch.reduce((sum, file) => sum + scratchBytes(file), 0));
}

const scratchOf = (recipe: Recipe): ScratchFile[] =>
  scheduleOf(graphOf(recipe), 1)
    .jobs.slice(0, -1)
    .map((job) => scratchFor(job, ''));

/** @throws Problem where the disk of a path has less room than is needed */
async function refuseFullDisk(out: string, needed: number): Promise<void> {
  const { bavail, bsize } = await statfs(dirname(out));
  if (needed <= bavail * bsize) return;
  throw new Problem(
    'work',
    `The result needs ${formatBytes(needed)} on disk, ${formatBytes(bavail * bsize)} are free. Free some space or order fewer ppi.`,
  );
}
