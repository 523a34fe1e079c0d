import type { Knex } from 'knex';
import { Problem } from '../problem';
import { jobChanged } from './job-changes';
import { askToCancel } from './sendings';
import { cancelTask } from './tasks';

/**
 * How long is counted in rounds of housekeeping, of which there are six an hour: a clock that is set makes nothing old.
 */
const ROUNDS_A_DAY = 144;
/** How long a deleted job can be brought back. */
export const DELETED_ROUNDS = ROUNDS_A_DAY;
/** How long a file is kept that was taken in and that no job uses. */
export const UNUSED_ROUNDS = 7 * ROUNDS_A_DAY;

/** Takes a job off the board for good; for a day it can be brought back. What runs for it is cancelled. */
export async function deleteJob(db: Knex, id: number): Promise<void> {
  const touched = await db('jobs')
    .where({ id })
    .whereNull('deleted_at')
    .update({ deleted_at: Date.now(), deleted_rounds: 0 });
  if (touched === 0) throw new Problem('missing', 'There is no such job on the board.');
  await jobChanged(db, id);
  const open = await db('tasks')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .where('pieces.job_id', id)
    .whereIn('tasks.state', ['queued', 'running'])
    .select('tasks.id');
  for (const task of open) await cancelTask(db, task.id);
  const sent: string[] = await db('sendings')
    .join('pieces', 'pieces.id', 'sendings.piece_id')
    .where({ 'pieces.job_id': id, finished_at: null })
    .pluck('key');
  for (const key of sent) await askToCancel(db, key);
}

/** @throws Problem where it is gone for good by now */
export async function restoreJob(db: Knex, id: number): Promise<void> {
  const touched = await db('jobs').where({ id }).update({ deleted_at: null });
  if (touched === 0) throw new Problem('missing', 'This job is gone for good.');
  await jobChanged(db, id);
}

/** What no record names any more. */
export interface Purged {
  jobs: number;
  /** digests of originals */
  originals: string[];
  /** paths of results below the data folder */
  results: string[];
}

/**
 * One round of housekeeping: removes jobs that were deleted long enough ago, and originals that no job used for
 * longer; with all that only they name.
 * @param rounds how many it counts for
 */
export async function purge(db: Knex, rounds = 1): Promise<Purged> {
  await db('jobs').whereNotNull('deleted_at').increment('deleted_rounds', rounds);
  const jobs: number[] = await goneJobs(db).pluck('id');
  const purged: Purged = { jobs: jobs.length, originals: [], results: [] };
  for (const id of jobs) {
    await db.transaction(async (trx) => {
      const { originals, results } = await removeJob(trx, id);
      purged.originals.push(...originals);
      purged.results.push(...results);
    });
  }
  const used = () => usedDigests(db);
  await db('originals').whereIn('digest', used()).update({ unused_rounds: 0 });
  await db('originals').whereNotIn('digest', used()).increment('unused_rounds', rounds);
  const unused: string[] = await db('originals')
    .where('unused_rounds', '>', UNUSED_ROUNDS)
    .pluck('digest');
  for (const digest of unused) if (await removeOriginal(db, digest)) purged.originals.push(digest);
  return purged;
}

/** Files that a picture is of, or that are compared with one; and what was taken out of them. */
const usedDigests = (db: Knex) => {
  const used = () => db('pieces').select('digest').union(db('brought').select('digest'));
  const inside = db('taken_out').whereNotNull('digest').whereIn('parent', used()).select('digest');
  return used().union(inside);
};

const goneJobs = (db: Knex) =>
  db('jobs').whereNotNull('deleted_at').where('deleted_rounds', '>', DELETED_ROUNDS);

async function removeJob(trx: Knex, id: number): Promise<Omit<Purged, 'jobs'>> {
  // Written first; and somebody may have brought it back meanwhile.
  const touched = await goneJobs(trx)
    .where({ id })
    .update({ deleted_rounds: DELETED_ROUNDS + 1 });
  if (touched === 0) return { originals: [], results: [] };
  const pieces = () => trx('pieces').where({ job_id: id }).select('id');
  const tasks = () => trx('tasks').whereIn('piece_id', pieces()).select('id');
  const own: string[] = await trx('pieces').where({ job_id: id }).pluck('digest');
  const brought: string[] = await trx('brought').whereIn('piece_id', pieces()).pluck('digest');
  const results: string[] = await trx('artifacts').whereIn('task_id', tasks()).pluck('path');
  await trx('sendings').whereIn('piece_id', pieces()).delete();
  await trx('artifacts').whereIn('task_id', tasks()).delete();
  await trx('tasks').whereIn('piece_id', pieces()).update({ parent: null });
  await trx('tasks').whereIn('piece_id', pieces()).delete();
  for (const table of ['changes', 'marks', 'sweeps', 'brought']) {
    await trx(table).whereIn('piece_id', pieces()).delete();
  }
  await trx('batch_items').whereIn('piece_id', pieces()).delete();
  await trx('events').where({ job_id: id }).delete();
  await trx('pieces').where({ job_id: id }).delete();
  await trx('board').where({ job_id: id }).delete();
  await trx('jobs').where({ id }).delete();
  const originals: string[] = [];
  const inside: string[] = await trx('taken_out')
    .whereNotNull('digest')
    .whereIn('parent', own)
    .pluck('digest');
  for (const digest of new Set([...own, ...brought, ...inside]))
    if (await removeOriginal(trx, digest)) originals.push(digest);
  return { originals, results };
}

/** Removes an original's record, where no picture uses it. @returns whether it did */
async function removeOriginal(on: Knex, digest: string): Promise<boolean> {
  const unused = (query: Knex.QueryBuilder) =>
    query.where({ digest }).whereNotIn('digest', usedDigests(on));
  await unused(on('pages')).delete();
  const names = (query: Knex.QueryBuilder) => query.where({ parent: digest }).orWhere({ digest });
  if (Number((await unused(on('originals')).count({ count: '*' }).first())?.count) > 0) {
    await names(on('taken_out')).delete();
  }
  return Number(await unused(on('originals')).delete()) > 0;
}
