import type { Knex } from 'knex';
import { KnownProfile, SHIPPED } from '@/core/colour/profiles';
import { keepProfile, readProfile } from '../colour/profiles';
import { Problem } from '../problem';

const shipped = Object.values(SHIPPED);

/** What colours can be converted to: the profiles that ship, then those that the shop added. */
export async function listProfiles(db: Knex): Promise<KnownProfile[]> {
  const rows: unknown[] = await db('profiles')
    .whereNull('removed_at')
    .orderBy('name')
    .select('digest', 'name', 'space');
  const added = rows.map((row) => KnownProfile.parse({ ...(row as object), added: true }));
  return [...shipped.map((one) => ({ ...one, added: false })), ...added];
}

/**
 * Adds a profile to the shop; one that is there already stays as it is.
 * @throws Problem where it is none that can be used
 */
export async function addProfile(
  db: Knex,
  bytes: Uint8Array,
  fileName: string,
): Promise<KnownProfile> {
  const { digest, name, space } = await readProfile(bytes, fileName);
  const known = shipped.find((one) => one.digest === digest);
  if (known) return { ...known, added: false };
  await keepProfile(digest, bytes);
  await db('profiles')
    .insert({ digest, name, space, added_at: Date.now(), removed_at: null })
    .onConflict('digest')
    .merge(['removed_at']);
  return { digest, name, space, added: true };
}

/** Takes a profile off the list. What was made with it can still be made again. */
export async function removeProfile(db: Knex, digest: string): Promise<void> {
  const removed = await db('profiles')
    .where({ digest })
    .whereNull('removed_at')
    .update({ removed_at: Date.now() });
  if (removed === 0) throw new Problem('missing', 'The shop has not added such a profile.');
}
