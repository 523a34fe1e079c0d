import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { SHIPPED, SRGB } from '@/core/colour/profiles';
import type { Recipe } from '@/core/recipe/recipe';
import { Problem } from '../problem';
import { root } from '../root';

const files = Object.keys(SHIPPED) as (keyof typeof SHIPPED)[];

/**
 * The bytes of the profile with a digest.
 * @throws Problem where there is none, or its file is missing or damaged
 */
export async function profileBytes(digest: string): Promise<Uint8Array> {
  const name = files.find((one) => SHIPPED[one].digest === digest);
  if (!name) throw new Problem('missing', 'A colour profile of this work is not here.');
  const file = `profiles/${name}`;
  const bytes = await readFile(join(root(), file)).catch(() => null);
  if (!bytes) throw new Problem('work', `${file} is missing. Put it back from the delivery.`);
  if (createHash('sha256').update(bytes).digest('hex') !== digest) {
    throw new Problem('work', `${file} is damaged. Put it back from the delivery.`);
  }
  return bytes;
}

/** The profile that a result carries: the original's, else sRGB where it is to be tagged. */
export async function carriedProfile(
  { output }: Pick<Recipe, 'output'>,
  original: Uint8Array | null,
): Promise<Uint8Array | null> {
  return original ?? (output.untagged === 'srgb' ? profileBytes(SRGB.digest) : null);
}
