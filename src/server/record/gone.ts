import type { Knex } from 'knex';
import { JobRecord } from '@/core/shop/record';
import { deleteJob, restoreJob } from '../db/deleting';
import { isOnBoard } from '../db/jobs';
import { Problem } from '../problem';
import { readRecord } from './read-record';

/** Takes a job off the board for good. Where something of it was sent to a device its record stays, as it is now. */
export async function deleteKeepingRecord(db: Knex, id: number): Promise<void> {
  const sent = await db('events').where({ job_id: id, kind: 'sent' }).first('id');
  const record = sent && (await isOnBoard(db, id)) ? await readRecord(db, id) : null;
  // Written first, so that it is there whenever this is broken off: as long as the job is on the board nobody reads it.
  if (record) {
    await db('gone_records')
      .insert({ job_id: id, number: record.number, record: JSON.stringify(record), at: Date.now() })
      .onConflict('job_id')
      .merge();
  }
  await deleteJob(db, id);
}

/** Brings a job back. @throws Problem where it is gone for good by now */
export async function restoreWithRecord(db: Knex, id: number): Promise<void> {
  await restoreJob(db, id);
  await db('gone_records').where({ job_id: id }).delete();
}

/** The record of a job, also of one that was deleted after something of it was sent. */
export async function recordOfAny(db: Knex, id: number): Promise<JobRecord> {
  if (await isOnBoard(db, id)) return readRecord(db, id);
  const row = await db('gone_records').where({ job_id: id }).first('record');
  if (!row) throw new Problem('missing', 'There is no such job on the board.');
  return JobRecord.parse(JSON.parse(row.record));
}

/** The job of a number, as 0401. @throws Problem where there is none, or its record did not stay */
export async function jobOfNumber(db: Knex, number: string): Promise<number> {
  const row =
    (await db('jobs').where({ number, deleted_at: null }).first('id')) ??
    (await db('gone_records').where({ number }).first({ id: 'job_id' }));
  if (!row) throw new Problem('missing', `There is no job ${number} on the board.`);
  return row.id;
}
