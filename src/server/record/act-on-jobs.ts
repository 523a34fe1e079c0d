import type { Knex } from 'knex';
import { canonicalJson } from '@/core/recipe/canonical';
import type { JobsAct, JobsOutcome } from '@/core/shop/jobs-act';
import type { JobChange } from '@/core/shop/job';
import { orderAgain } from '../db/again';
import { changeJob, headOfJob } from '../db/jobs';
import { Problem } from '../problem';
import { deleteKeepingRecord, restoreWithRecord } from './gone';

/** Does an act to jobs, one after the other, and tells what takes it back. */
export async function actOnJobs(db: Knex, asked: JobsAct): Promise<JobsOutcome> {
  const outcome: JobsOutcome = { done: [], failed: [], undo: [] };
  for (const job of asked.jobs) {
    try {
      const { done, undo } = await act(db, asked, job);
      outcome.done.push(done);
      addTo(outcome.undo, undo);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      outcome.failed.push({ job, words: error.message });
    }
  }
  return outcome;
}

/** Adds an act to others; where one of them does the same to other jobs, it does it to these as well. */
function addTo(acts: JobsAct[], one: JobsAct): void {
  const plain = (act: JobsAct) => canonicalJson({ ...act, jobs: [] });
  const same = acts.find((other) => plain(other) === plain(one));
  if (same) same.jobs.push(...one.jobs);
  else acts.push(one);
}

/** @returns the job that it was done to, or that came of it, and what takes it back */
async function act(
  db: Knex,
  asked: JobsAct,
  job: number,
): Promise<{ done: number; undo: JobsAct }> {
  switch (asked.act) {
    case 'change': {
      const before = await headOfJob(db, job);
      await changeJob(db, job, asked.change);
      const names = Object.keys(asked.change) as (keyof JobChange)[];
      const change = Object.fromEntries(names.map((name) => [name, before[name]])) as JobChange;
      return { done: job, undo: { act: 'change', jobs: [job], change } };
    }
    case 'delete':
      await deleteKeepingRecord(db, job);
      return { done: job, undo: { act: 'restore', jobs: [job] } };
    case 'restore':
      await restoreWithRecord(db, job);
      return { done: job, undo: { act: 'delete', jobs: [job] } };
    case 'duplicate': {
      const made = await orderAgain(db, job, { width: null });
      return { done: made, undo: { act: 'delete', jobs: [made] } };
    }
  }
}
