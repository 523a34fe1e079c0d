import type { Knex } from 'knex';
import { Problem } from '../problem';
import { cancelTask } from './tasks';

/** How long a deleted job can be brought back, in milliseconds. */
export const DELETED_KEPT_MS = 24 * 3_600_000;
/** How long a file is kept that was taken in and that no job uses. */
export const UNUSED_KEPT_MS = 7 * 24 * 3_600_000;

/** Takes a job off the board for good; for a while it can be brought back. What runs for it is cancelled. */
export async function deleteJob(db: Knex, id: number): Promise<void> {
  const touched = await db('jobs')
    .where({ id })
    .whereNull('deleted_at')
    .update({ deleted_at: Date.now() });
  if (touched === 0) throw new Problem('missing', 'There is no such job on the board.');
  const open = await db('tasks')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .where('pieces.job_id', id)
    .whereIn('tasks.state', ['queued', 'running'])
    .select('tasks.id');
  for (const task of open) await cancelTask(db, task.id);
}

/** @throws Problem where it is gone for good by now */
export async function restoreJob(db: Knex, id: number): Promise<void> {
  const touched = await db('jobs').where({ id }).update({ deleted_at: null });
  if (touched === 0) throw new Problem('missing', 'This job is gone for good.');
}

/**
 * Removes jobs that were deleted a while ago, and originals that no job uses; with all that only they name. Their
 * files are nobody's then.
 */
export async function purge(
  db: Knex,
  now = Date.now(),
): Promise<{ jobs: number; originals: number }> {
  const jobs: { id: number }[] = await db('jobs')
    .whereNotNull('deleted_at')
    .where('deleted_at', '<', now - DELETED_KEPT_MS)
    .select('id');
  for (const { id } of jobs) await db.transaction((trx) => removeJob(trx, id, now));
  let originals = 0;
  await db.transaction(async (trx) => {
    const unused = trx('originals')
      .where('taken_in_at', '<', now - UNUSED_KEPT_MS)
      .whereNotIn('digest', trx('pieces').select('digest'))
      .select('digest');
    await trx('pages').whereIn('digest', unused).delete();
    originals = Number(await trx('originals').whereIn('digest', unused).delete());
  });
  return { jobs: jobs.length, originals };
}

async function removeJob(trx: Knex, id: number, now: number): Promise<void> {
  // Written first; and somebody may have brought it back meanwhile.
  const touched = await trx('jobs')
    .where({ id })
    .where('deleted_at', '<', now - DELETED_KEPT_MS)
    .update({ deleted_at: trx.ref('deleted_at') });
  if (touched === 0) return;
  const pieces = trx('pieces').where({ job_id: id }).select('id');
  const tasks = trx('tasks').whereIn('piece_id', pieces.clone()).select('id');
  const digests: string[] = await trx('pieces').where({ job_id: id }).pluck('digest');
  await trx('artifacts').whereIn('task_id', tasks).delete();
  await trx('tasks').whereIn('piece_id', pieces.clone()).update({ parent: null });
  await trx('tasks').whereIn('piece_id', pieces.clone()).delete();
  await trx('changes').whereIn('piece_id', pieces.clone()).delete();
  await trx('pieces').where({ job_id: id }).delete();
  await trx('board').where({ job_id: id }).delete();
  await trx('jobs').where({ id }).delete();
  const left = trx('pieces').select('digest');
  await trx('pages').whereIn('digest', digests).whereNotIn('digest', left.clone()).delete();
  await trx('originals').whereIn('digest', digests).whereNotIn('digest', left).delete();
}
