import { stat } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { Audit } from '@/core/shop/audit';
import { keepAudit } from '../db/audits';
import { purge } from '../db/deleting';
import { keepMeasured } from '../db/measured';
import { makeRoom, spareBytes } from '../files/room';
import { store } from '../files/store';
import { filesIn, removeFilesOf, sweepUnnamed } from '../files/sweep';
import { audit } from './audit';

/**
 * One round: clears away what nobody needs, deleted jobs, files that no record names, and what is over the bound of
 * room.
 */
export async function clearAway(db: Knex): Promise<void> {
  const { jobs, originals, results } = await purge(db);
  await removeFilesOf(db, originals, results);
  const unnamed = await sweepUnnamed(db);
  const { removed } = await makeRoom(db);
  const told = [
    jobs && `${jobs} deleted jobs`,
    originals.length && `${originals.length} originals that no job uses`,
    unnamed.length && `${unnamed.length} files that no record names`,
    removed.length && `${removed.length} files that can be made again`,
  ].filter(Boolean);
  if (told.length > 0) console.log(`Cleared away: ${told.join(', ')}.`);
}

/** Measures how much room files take. */
export async function measure(db: Knex): Promise<void> {
  let originals = 0;
  for (const path of await filesIn('originals')) {
    originals += (await stat(store.named(path)).catch(() => null))?.size ?? 0;
  }
  await keepMeasured(db, { originals, again: await spareBytes(db) });
}

/** Compares database, files and digests, and keeps what was found. */
export async function auditAndKeep(db: Knex): Promise<Audit> {
  const outcome = await audit(db);
  await keepAudit(db, outcome);
  return outcome;
}
