import type { Knex } from 'knex';
import type { DeskAct, DeskOutcome } from '@/core/shop/desk-act';
import { orderAgain } from '../db/again';
import { changeJob } from '../db/jobs';
import { Problem } from '../problem';
import { deleteKeepingRecord, restoreWithRecord } from './gone';

/** Does an act to jobs, one after the other. */
export async function actOnJobs(db: Knex, asked: DeskAct): Promise<DeskOutcome> {
  const outcome: DeskOutcome = { done: [], failed: [] };
  for (const job of asked.jobs) {
    try {
      outcome.done.push(await act(db, asked, job));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      outcome.failed.push({ job, words: error.message });
    }
  }
  return outcome;
}

/** @returns the job that it was done to, or that came of it */
async function act(db: Knex, asked: DeskAct, job: number): Promise<number> {
  switch (asked.act) {
    case 'change':
      await changeJob(db, job, asked.change);
      return job;
    case 'delete':
      await deleteKeepingRecord(db, job);
      return job;
    case 'restore':
      await restoreWithRecord(db, job);
      return job;
    case 'duplicate':
      return orderAgain(db, job, { width: null });
  }
}
