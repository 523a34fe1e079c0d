import { randomUUID } from 'node:crypto';
import { setPriority } from 'node:os';
import type { Knex } from 'knex';
import type { Task } from '@/core/shop/task';
import { deliverResults } from '../batch/deliver';
import { feedBatches } from '../batch/feed';
import { config } from '../config';
import { database } from '../db/connection';
import {
  claimTask,
  finishTask,
  giveBack,
  LEASE_MS,
  reportProgress,
  type Outcome,
} from '../db/tasks';
import { inWords, Problem } from '../problem';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { Leave } from '../render/leave';
import { renewThreads, startThreads } from '../render/threads';
import { doAsItsKind } from './kinds';

/** How often the queue is looked at, and a running task's lease renewed. */
const LOOK_MS = 250;
export const REPORT_MS = 400;
/** Threads keep the memory of their largest task: after so long without one, others take their place. */
const REST_MS = 60_000;

/** Why a task was stopped before its end. */
class Stopped extends Error {
  constructor(readonly reason: 'cancel' | 'lost') {
    super(reason);
  }
}

/**
 * Does claimed tasks one after another, until it is told to leave. A process of its own: killing it
 * loses none, since claims lapse and files appear only when they are whole.
 */
export async function doTasks(db: Knex, leave: AbortSignal): Promise<void> {
  let worked: number | null = null;
  while (!leave.aborted) {
    await tendBatches(db);
    // A claim has a name of its own, so that what an earlier one left is never taken for this one's.
    const claim = randomUUID();
    const task = await claimTask(db, claim);
    if (task) {
      await doTask(db, task, claim, leave);
      worked = Date.now();
    } else if (worked !== null && Date.now() - worked > REST_MS) {
      await renewThreads();
      worked = null;
    } else await later(LOOK_MS);
  }
}

/** Queues what batches make next, and puts what they made where it belongs. What fails is tried again at the next look. */
async function tendBatches(db: Knex): Promise<void> {
  for (const tend of [feedBatches, deliverResults]) {
    await tend(db).catch((error: unknown) => console.error(error));
  }
}

const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Does a claimed task and says how it ended, unless it has another owner by then.
 * @param leave where it is aborted the task is given back, to be gone on with later
 */
export async function doTask(
  db: Knex,
  task: Task,
  claim: string,
  leave?: AbortSignal,
): Promise<void> {
  const stop = new AbortController();
  const stopToLeave = () => stop.abort(new Leave());
  leave?.addEventListener('abort', stopToLeave);
  let progress = 0;
  const report = async (): Promise<boolean> => {
    const answer = await reportProgress(db, task.id, claim, progress);
    if (answer !== 'go on') stop.abort(new Stopped(answer));
    return answer === 'go on';
  };
  // A report that fails is made again: as long as the lease stands nobody else takes the task, and once
  // it has lapsed the next report that comes through says so.
  const reporting = setInterval(() => {
    report().catch((error: unknown) => console.error(error));
  }, REPORT_MS);
  const end = (outcome: Outcome) =>
    insistently(() => finishTask(db, task.id, claim, outcome).then(() => {}));
  try {
    const done = await doAsItsKind(task, {
      ...{ db, claim, signal: stop.signal },
      onProgress: (share) => (progress = share),
      // A busy database does not end a run of hours at its last word.
      stillOwned: () => insistently(report),
    });
    clearInterval(reporting);
    await end({ state: 'done', ...done });
  } catch (error) {
    clearInterval(reporting);
    // What follows a word to stop is its consequence, whatever it says.
    const why: unknown = stop.signal.aborted ? stop.signal.reason : error;
    if (why instanceof Leave) return giveBack(db, task.id, claim);
    if (why instanceof Stopped) {
      if (why.reason === 'cancel') await end({ state: 'cancelled' });
      return;
    }
    if (!(error instanceof Problem)) console.error(error);
    await end({ state: 'failed', error: inWords(error) });
  } finally {
    clearInterval(reporting);
    leave?.removeEventListener('abort', stopToLeave);
  }
}

/** Asks again, for as long as a lease lasts, where the database does not answer. */
async function insistently<T>(ask: () => Promise<T>): Promise<T> {
  const until = Date.now() + LEASE_MS;
  for (;;) {
    try {
      return await ask();
    } catch (error) {
      if (Date.now() > until) throw error;
      await later(REPORT_MS);
    }
  }
}

if (process.argv[1] === import.meta.filename) {
  // A run gives way to people who are looking.
  setPriority(10);
  startWatch({ grace: 3000 });
  workIn(config().data);
  const leaving = new AbortController();
  let working = false;
  // Before anything is done there is nothing to leave in order.
  const leave = () => (working ? leaving.abort() : process.exit(0));
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, leave);
  // Whoever started this process has gone: without a supervisor nobody would ever end it.
  process.on('disconnect', leave);
  await startThreads();
  const db = await database();
  working = true;
  await doTasks(db, leaving.signal);
  process.exit(0);
}
