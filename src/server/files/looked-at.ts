import type { Knex } from 'knex';
import { openRaw } from '../codecs/raw';
import { wasSent } from '../db/sendings';
import { openPrinted } from '../devices/printed';
import { Problem } from '../problem';
import { findFinished, openFinished, type Samples } from './finished';
import { reducedPath } from './reduced';
import { inspectedPage } from './take-in';

/**
 * Pixels of whatever can be looked at by its digest: a page of an original, or the file of a finished run; or a print, by
 * its key.
 * @param level how often it was halved
 * @throws Problem where there is neither
 */
export async function openLookedAt(
  db: Knex,
  digest: string,
  page: number,
  level: number,
): Promise<Samples> {
  return either(
    db,
    digest,
    async () => openRaw(await reducedPath(await inspectedPage(db, digest, page), level)),
    (file) => openFinished(file, level),
    () => openPrinted(db, digest, level),
  );
}

/** The profile that it carries, or null. */
export const profileLookedAt = (db: Knex, digest: string, page: number): Promise<Buffer | null> =>
  either(
    db,
    digest,
    async () => (await inspectedPage(db, digest, page)).profile,
    async ({ converted, madeFrom }) =>
      converted ? null : (await inspectedPage(db, madeFrom.digest, madeFrom.page)).profile,
    async () => null,
  );

async function either<T>(
  db: Knex,
  digest: string,
  original: () => Promise<T>,
  finished: (file: NonNullable<Awaited<ReturnType<typeof findFinished>>>) => Promise<T>,
  printed: () => Promise<T>,
): Promise<T> {
  try {
    return await original();
  } catch (error) {
    if (!(error instanceof Problem) || error.kind !== 'missing') throw error;
    const file = await findFinished(db, digest);
    if (file) return finished(file);
    if (await wasSent(db, digest)) return printed();
    throw error;
  }
}
