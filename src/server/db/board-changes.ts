import type { Knex } from 'knex';

/** Says that what the board shows of a job has changed. */
export const staleRow = (db: Knex, jobId: number) =>
  db('board').where({ job_id: jobId }).increment('changes');

/** Says so of all jobs with a picture from an original. */
export const staleRowsOf = (db: Knex, digest: string) =>
  db('board')
    .whereIn('job_id', db('pieces').where({ digest }).select('job_id'))
    .increment('changes');
