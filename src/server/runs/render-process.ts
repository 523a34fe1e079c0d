import { sweepClaims } from '../files/sweep';
import { randomUUID } from 'node:crypto';
import { setPriority } from 'node:os';
import type { Knex } from 'knex';
import { database } from '../db/connection';
import { claimRun, finishRun, LEASE_MS, reportProgress, type ClaimedRun } from '../db/runs';
import { makeFolderOf, store } from '../files/store';
import { decodedPath, inspectedPage } from '../files/take-in';
import { inWords, Problem } from '../problem';
import { renderFile } from './render-file';
import { renewThreads, startThreads } from './threads';

/** How often the queue is looked at, and a running run's lease renewed. */
const LOOK_MS = 250;
export const REPORT_MS = 400;
/** Threads keep the memory of their largest run: after so long without one, others take their place. */
const REST_MS = 60_000;

/** Why a run was stopped before its end. */
class Stopped extends Error {
  constructor(readonly reason: 'cancel' | 'lost') {
    super(reason);
  }
}

/**
 * Renders claimed runs one after another, for as long as it lives. A process of its own: killing it
 * loses no run, since claims lapse and files appear only when they are whole.
 */
export async function renderRuns(db: Knex): Promise<never> {
  let worked: number | null = null;
  for (;;) {
    // A claim has a name of its own, so that what an earlier one left is never taken for this one's.
    const claim = randomUUID();
    const run = await claimRun(db, claim);
    if (run) {
      await renderOne(db, run, claim);
      worked = Date.now();
    } else if (worked !== null && Date.now() - worked > REST_MS) {
      await renewThreads();
      worked = null;
    } else await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}

async function renderOne(db: Knex, run: ClaimedRun, owner: string): Promise<void> {
  const stop = new AbortController();
  let progress = 0;
  const tellOnce = async (): Promise<boolean> => {
    const answer = await reportProgress(db, run.id, owner, progress);
    if (answer !== 'go on') stop.abort(new Stopped(answer));
    return answer === 'go on';
  };
  /** The last word before the result takes its place: a busy database does not end a run of hours. */
  const stillOwned = async (): Promise<boolean> => {
    const until = Date.now() + LEASE_MS;
    for (;;) {
      try {
        return await tellOnce();
      } catch (error) {
        if (Date.now() > until) throw error;
        await new Promise((resolve) => setTimeout(resolve, REPORT_MS));
      }
    }
  };
  const report = setInterval(() => {
    // A report that fails is made again: as long as the lease stands nobody else takes the run, and once
    // it has lapsed the next report that comes through says so.
    tellOnce().catch((error: unknown) => console.error(error));
  }, REPORT_MS);
  try {
    const original = await inspectedPage(db, run.digest, run.recipe.original.page);
    const out = await makeFolderOf(store.result(run.id));
    await sweepClaims(out);
    const rendered = await renderFile({
      original: {
        file: store.original(run.digest),
        name: original.name,
        raw: () => decodedPath(run.digest, original.name, original.page),
      },
      recipe: run.recipe,
      profile: original.profile,
      out,
      claim: owner,
      stillOwned,
      onProgress: (share) => (progress = share),
      signal: stop.signal,
    });
    clearInterval(report);
    const { readBack, seconds } = rendered;
    await finishRun(db, run.id, owner, {
      state: 'done',
      result: {
        fileName: run.fileName,
        bytes: readBack.bytes,
        width: readBack.width,
        height: readBack.height,
        ppi: readBack.ppi!,
        profile: original.profile ? original.findings.profile : null,
        seconds,
      },
    });
  } catch (error) {
    clearInterval(report);
    // What follows a word to stop is its consequence, whatever it says.
    const why: unknown = stop.signal.aborted ? stop.signal.reason : error;
    if (why instanceof Stopped) {
      if (why.reason === 'cancel') await finishRun(db, run.id, owner, { state: 'cancelled' });
      return;
    }
    if (!(error instanceof Problem)) console.error(error);
    await finishRun(db, run.id, owner, { state: 'failed', error: inWords(error) });
  } finally {
    clearInterval(report);
  }
}

if (process.argv[1] === import.meta.filename) {
  // A run gives way to people who are looking.
  setPriority(10);
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
  // Whoever started this process has gone: without a supervisor nobody would ever end it.
  process.on('disconnect', () => process.exit(0));
  await startThreads();
  await renderRuns(await database());
}
