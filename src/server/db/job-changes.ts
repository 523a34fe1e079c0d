import type { Knex } from 'knex';

const JOBS_OF = (db: Knex, digest: string) => db('pieces').where({ digest }).select('job_id');

const changedNow = (db: Knex) => ({
  change: db.raw('(select coalesce(max(change), 0) + 1 from jobs)'),
});

/** Says that something of a job changed that the board doesn't show. */
export const jobChanged = (db: Knex, jobId: number) =>
  db('jobs').where({ id: jobId }).update(changedNow(db));

/** Says so of the job of a picture. */
export const jobOfPieceChanged = (db: Knex, pieceId: number) =>
  db('jobs')
    .where({ id: db('pieces').where({ id: pieceId }).select('job_id') })
    .update(changedNow(db));

/** Says that what the board shows of a job has changed. */
export async function staleRow(db: Knex, jobId: number): Promise<void> {
  await db('board').where({ job_id: jobId }).increment('changes');
  await jobChanged(db, jobId);
}

/** Says so of all jobs with a picture from an original. */
export async function staleRowsOf(db: Knex, digest: string): Promise<void> {
  await db('board').whereIn('job_id', JOBS_OF(db, digest)).increment('changes');
  await db('jobs').whereIn('id', JOBS_OF(db, digest)).update(changedNow(db));
}

/** The number of the last change of any job. */
export async function lastJobChange(db: Knex): Promise<number> {
  const [row] = await db('jobs').max({ last: 'change' });
  return Number(row?.last ?? 0);
}

/** Jobs that changed after a change, and the number of the last of these changes. */
export async function jobsChangedAfter(
  db: Knex,
  after: number,
): Promise<{ jobs: number[]; last: number }> {
  const rows: { id: number; change: number }[] = await db('jobs')
    .where('change', '>', after)
    .orderBy('change')
    .select('id', 'change');
  return { jobs: rows.map(({ id }) => id), last: rows.at(-1)?.change ?? after };
}
