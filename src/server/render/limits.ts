import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import { formatBytes } from '@/core/measure/format';
import { outputRefusal } from '@/core/output/refusal';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { scheduleOf } from '@/core/render/schedule';
import { bytesWhileWritten } from '../output/bytes';
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
  const { target, output, original } = recipe;
  const refused = outputRefusal(output, target);
  if (refused) throw new Problem('usage', refused);
  const drawn = original.drawn ? original.width * original.height * DRAWN_BYTES : 0;
  const placed = original.drawn?.placed ?? [];
  const treated = placed.reduce((sum, one) => sum + bytesWhileWritten(one.recipe), drawn);
  const before = scratch.reduce((sum, file) => sum + scratchBytes(file), treated);
  await refuseFullDisk(out, before + bytesWhileWritten(recipe));
}

/** Bytes of a pixel that is drawn from shapes. */
const DRAWN_BYTES = 4;

const scratchOf = (recipe: Recipe): ScratchFile[] =>
  scheduleOf(graphOf(recipe), 1)
    .jobs.slice(0, -1)
    .map((job) => scratchFor(job, ''));

/** @throws Problem where the disk of a path has less room than is needed */
async function refuseFullDisk(out: string, needed: number): Promise<void> {
  const { bavail, bsize } = await statfs(dirname(out));
  if (needed <= bavail * bsize) return;
  throw new Problem(
    'full',
    `The result needs ${formatBytes(needed)} on disk, ${formatBytes(bavail * bsize)} are free. Free some space or order fewer ppi.`,
  );
}
