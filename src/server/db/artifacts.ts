import type { Knex } from 'knex';
import type { JobState } from '@/core/shop/job';

/** A file of a task that may go to make room. */
export interface SpareResult {
  taskId: string;
  /** below the data folder */
  path: string;
  bytes: number;
  finishedAt: number;
  /** whether its job is over: printed, or off the board */
  over: boolean;
}

const files = (db: Knex) =>
  db('artifacts')
    .join('tasks', 'tasks.id', 'artifacts.task_id')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .whereNull('artifacts.gone_at');

/** Jobs in these states still have their results to be printed. */
const NEEDED: readonly JobState[] = ['approved', 'sent'];

/** Runs of batches that are not over: whoever fetches their results wants all of them. */
const ofOpenBatches = (db: Knex) =>
  db('batch_items')
    .join('batches', 'batches.id', 'batch_items.batch_id')
    .whereIn('batches.state', ['running', 'paused'])
    .whereNull('batches.deleted_at')
    .whereNotNull('task_id')
    .select('task_id');

/** What is approved waits for its print, and what is on its way to a device is read: its file stays. */
const canGo = (db: Knex) =>
  files(db)
    .whereNotIn('jobs.state', NEEDED)
    .whereNotIn('artifacts.task_id', ofOpenBatches(db))
    .whereNotIn('artifacts.task_id', db('sendings').whereNull('finished_at').select('task_id'));

export async function resultsThatCanGo(db: Knex): Promise<SpareResult[]> {
  const rows = await canGo(db).select(
    'artifacts.task_id',
    'artifacts.path',
    'artifacts.bytes',
    'tasks.finished_at',
    'jobs.state',
    'jobs.archived',
  );
  return rows.map((row) => ({
    taskId: row.task_id,
    path: row.path,
    bytes: Number(row.bytes),
    finishedAt: Number(row.finished_at ?? 0),
    over: row.state === ('printed' satisfies JobState) || Boolean(row.archived),
  }));
}

/**
 * Says of a file that it went; what it was, its recipe and digest stay.
 * @returns whether it may go: a job can be approved meanwhile
 */
export async function markGone(db: Knex, taskId: string, path: string): Promise<boolean> {
  const touched = await db('artifacts')
    .where({ task_id: taskId, path })
    .whereIn('task_id', canGo(db).select('artifacts.task_id'))
    .update({ gone_at: Date.now() });
  return touched > 0;
}

/** Files that tasks made and that are to be there, with their digests where these are known. */
export async function filesToBeThere(
  db: Knex,
): Promise<{ taskId: string; path: string; bytes: number; digest: string | null }[]> {
  const rows = await db('artifacts')
    .whereNull('gone_at')
    .select('task_id', 'path', 'bytes', 'digest');
  return rows.map(({ task_id: taskId, path, bytes, digest }) => ({
    ...{ taskId, path, bytes: Number(bytes), digest },
  }));
}
