import { createHash, randomUUID } from 'node:crypto';
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ProfileProblem } from '@/core/colour/problem';
import { SHIPPED, SRGB, type KnownProfile } from '@/core/colour/profiles';
import type { ProfilePair } from '@/core/colour/transforms';
import type { Recipe } from '@/core/recipe/recipe';
import { profileName } from '../codecs/profile';
import { makeFolderOf, store } from '../files/store';
import { Problem } from '../problem';
import { root } from '../root';
import { engine } from './engine';

const files = Object.keys(SHIPPED) as (keyof typeof SHIPPED)[];

/**
 * The bytes of the profile with a digest.
 * @throws Problem where there is none, or its file is missing or damaged
 */
export async function profileBytes(digest: string): Promise<Uint8Array> {
  const name = files.find((one) => SHIPPED[one].digest === digest);
  if (name) {
    const file = `profiles/${name}`;
    return whole(await read(join(root(), file)), digest, file, 'Put it back from the delivery.');
  }
  const bytes = await read(store.profile(digest));
  if (!bytes) throw new Problem('missing', 'A colour profile of this work is not here. Add it.');
  return whole(bytes, digest, 'A colour profile of the shop', 'Add it again.');
}

const read = (path: string): Promise<Buffer | null> => readFile(path).catch(() => null);

/** @throws Problem where the bytes are missing, or not those of the digest */
function whole(bytes: Buffer | null, digest: string, what: string, remedy: string): Buffer {
  if (!bytes) throw new Problem('work', `${what} is missing. ${remedy}`);
  if (digestOf(bytes) === digest) return bytes;
  throw new Problem('work', `${what} is damaged. ${remedy}`);
}

const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Keeps a profile among the shop's files; half a one never lies there. */
export async function keepProfile(digest: string, bytes: Uint8Array): Promise<void> {
  const path = await makeFolderOf(store.profile(digest));
  const part = `${path}.${randomUUID()}.part`;
  try {
    await writeFile(part, bytes);
    await rename(part, path);
  } finally {
    await rm(part, { force: true });
  }
}

/** A profile that came from outside. */
export interface ReadProfile extends Omit<KnownProfile, 'added'> {
  bytes: Uint8Array;
}

/** No profile is larger. */
export const LARGEST_PROFILE = 32 << 20;

/**
 * Reads a profile that came from outside, and tries whether colours can be converted to it.
 * @throws Problem that says what is wrong with it
 */
export async function readProfile(bytes: Uint8Array, fileName: string): Promise<ReadProfile> {
  const refused = (why: string) =>
    new Problem('input', `${fileName} can't be used as a profile. ${why}`);
  if (bytes.length > LARGEST_PROFILE) throw refused('It is larger than any profile.');
  try {
    const by = await engine();
    const space = by.spaceOf(bytes);
    by.transform(await profileBytes(SRGB.digest), bytes, { intent: 'relative', blackPoint: true });
    return { digest: digestOf(bytes), name: profileName(Buffer.from(bytes)), space, bytes };
  } catch (error) {
    if (error instanceof ProfileProblem) throw refused(error.message);
    throw error;
  }
}

/** Where the bytes of a profile come from. */
export type ProfileBytes = (digest: string) => Promise<Uint8Array>;

/** The profiles that a result's colours are converted between: from the original's, or sRGB where it has none. */
export async function convertedBy(
  { output }: Pick<Recipe, 'output'>,
  original: Uint8Array | null,
  bytesOf: ProfileBytes,
): Promise<ProfilePair | null> {
  if (!output.colour) return null;
  const bytes = original ?? (await profileBytes(SRGB.digest));
  return { from: { digest: digestOf(bytes), bytes }, to: await bytesOf(output.colour.profile) };
}

/** The profile that a result carries: what it is converted to, the original's, or sRGB where it is to be tagged. */
export async function carriedProfile(
  { output }: Pick<Recipe, 'output'>,
  original: Uint8Array | null,
  bytesOf: ProfileBytes,
): Promise<Uint8Array | null> {
  if (output.colour) return bytesOf(output.colour.profile);
  return original ?? (output.untagged === 'srgb' ? profileBytes(SRGB.digest) : null);
}
