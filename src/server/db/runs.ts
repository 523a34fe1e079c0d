import type { Knex } from 'knex';
import { Run, RunResult, RunState, type RunEvent } from '@/core/shop/job';
import type { Pace } from '@/core/shop/lists';
import { throughputKey, secondsFor } from '@/core/render/cost';
import { Recipe } from '@/core/recipe/recipe';
import { Problem } from '../problem';

/** A claimed run goes back to the queue when its owner hasn't been heard of for so long. */
export const LEASE_MS = 10_000;
/** A run that took its process down so often is given up. */
const MOST_ATTEMPTS = 3;

/** Row of a run, as far as only the server needs it. */
export interface ClaimedRun {
  id: string;
  digest: string;
  recipe: Recipe;
  fileName: string;
}

interface Row {
  id: string;
  job_id: number;
  piece_id: number;
  title: string;
  trial_id: string;
  trial_name: string;
  state: string;
  progress: number;
  queued_at: number;
  rank: number;
  started_at: number | null;
  finished_at: number | null;
  error: string | null;
  result: string | null;
  recipe: string;
}

const toRun = (row: Row): Run => ({
  id: row.id,
  jobId: row.job_id,
  pieceId: row.piece_id,
  jobTitle: row.title,
  trialId: row.trial_id,
  trialName: row.trial_name,
  state: RunState.parse(row.state),
  progress: row.progress,
  queuedAt: row.queued_at,
  rank: row.rank,
  startedAt: row.started_at,
  finishedAt: row.finished_at,
  error: row.error,
  result: row.result ? RunResult.parse(JSON.parse(row.result)) : null,
  recipe: Recipe.parse(JSON.parse(row.recipe)),
});

const query = (db: Knex) =>
  db('runs')
    .join('pieces', 'pieces.id', 'runs.piece_id')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .select('runs.*', 'pieces.job_id', 'jobs.title');

export const runsOfPiece = async (db: Knex, pieceId: number): Promise<Run[]> =>
  (await query(db).where('runs.piece_id', pieceId).orderBy('runs.queued_at', 'desc').limit(20)).map(
    toRun,
  );

/** What is told of runs that changed at or after a moment, in milliseconds since 1970. */
export async function runsChangedSince(db: Knex, since: number): Promise<RunEvent[]> {
  const rows = await db('runs')
    .join('pieces', 'pieces.id', 'runs.piece_id')
    .where('runs.changed_at', '>=', since)
    .orderBy('runs.changed_at')
    .select(
      'runs.id',
      'runs.piece_id',
      'pieces.job_id',
      'runs.state',
      'runs.progress',
      'runs.rank',
    );
  return rows.map(({ id, job_id: jobId, piece_id: pieceId, state, progress, rank }) => ({
    ...{ id, jobId, pieceId, progress, rank },
    state: RunState.parse(state),
  }));
}

/** Runs that are not over. */
export const openRuns = async (db: Knex): Promise<Run[]> =>
  (await query(db).whereIn('runs.state', ['queued', 'running']).orderBy('runs.rank')).map(toRun);

export async function readRun(db: Knex, id: string): Promise<Run> {
  const row = await query(db).where('runs.id', id).first();
  if (!row) throw new Problem('missing', 'There is no such run.');
  return toRun(row);
}

export async function queueRun(
  db: Knex,
  run: {
    id: string;
    pieceId: number;
    trialId: string;
    trialName: string;
    recipe: Recipe;
    fileName: string;
  },
): Promise<Run> {
  const now = Date.now();
  await db('runs').insert({
    id: run.id,
    piece_id: run.pieceId,
    trial_id: run.trialId,
    trial_name: run.trialName,
    recipe: JSON.stringify(run.recipe),
    file_name: run.fileName,
    state: 'queued' satisfies RunState,
    queued_at: now,
    rank: afterAll(db),
    changed_at: now,
  });
  return readRun(db, run.id);
}

/** A rank behind all that there are. */
const afterAll = (db: Knex) => db.raw('(select coalesce(max(rank), 0) + 1 from runs)');

/**
 * Moves a run that waits before another that waits, or to the end of the queue.
 * @throws Problem where it began meanwhile
 */
export async function moveRun(db: Knex, id: string, before: string | null): Promise<Run> {
  await db.transaction(async (on) => {
    // Writes first, so that nobody claims one of them between looking and ordering.
    const touched = await on('runs')
      .where({ id, state: 'queued' })
      .update({ changed_at: Date.now() });
    if (touched === 0) {
      throw new Problem('conflict', 'It does not wait any more, so its place is as it is.');
    }
    const waiting: { id: string; rank: number }[] = await on('runs')
      .where({ state: 'queued' })
      .orderBy(['rank', 'queued_at', 'id'])
      .select('id', 'rank');
    const others = waiting.filter((run) => run.id !== id).map((run) => run.id);
    const at = others.indexOf(before ?? '');
    others.splice(at < 0 ? others.length : at, 0, id);
    // Ranks are given anew, whole numbers apart: they never run out.
    const first = Math.min(...waiting.map(({ rank }) => rank));
    for (const [i, one] of others.entries()) {
      await on('runs')
        .where({ id: one, state: 'queued' })
        .update({ rank: first + i, changed_at: Date.now() });
    }
  });
  return readRun(db, id);
}

/** Asks for a run to end. One that waits ends at once, one that runs when its process hears of it. */
export async function cancelRun(db: Knex, id: string): Promise<Run> {
  const now = Date.now();
  await db('runs')
    .where({ id, state: 'queued' })
    .update({ state: 'cancelled', finished_at: now, changed_at: now });
  await db('runs').where({ id, state: 'running' }).update({ cancel_asked: true, changed_at: now });
  return readRun(db, id);
}

/**
 * Takes the first run that waits, or whose owner fell silent. The claim is one statement, so that
 * no run has two owners.
 */
export async function claimRun(db: Knex, owner: string): Promise<ClaimedRun | null> {
  const now = Date.now();
  await db('runs')
    .where({ state: 'running' })
    .andWhere('lease_until', '<', now)
    .andWhere((or) => or.where('attempts', '>=', MOST_ATTEMPTS).orWhere({ cancel_asked: true }))
    .update({
      state: db.raw("case when cancel_asked then 'cancelled' else 'failed' end"),
      error: db.raw('case when cancel_asked then null else ? end', [
        `It took the render process down ${MOST_ATTEMPTS} times and was given up. The job is unharmed; order fewer ppi or ask for help.`,
      ]),
      finished_at: now,
      changed_at: now,
    });
  const waiting = db('runs')
    .where({ state: 'queued' })
    .orWhere((or) => or.where({ state: 'running' }).andWhere('lease_until', '<', now))
    .orderBy('rank')
    .limit(1)
    .select('id');
  const [row] = await db('runs')
    .whereIn('id', waiting)
    .update({
      state: 'running',
      owner,
      progress: 0,
      attempts: db.raw('attempts + 1'),
      lease_until: now + LEASE_MS,
      started_at: now,
      changed_at: now,
    })
    .returning(['id', 'piece_id', 'recipe', 'file_name']);
  if (!row) return null;
  const recipe = Recipe.parse(JSON.parse(row.recipe));
  return { id: row.id, digest: recipe.original.digest, recipe, fileName: row.file_name };
}

/**
 * Reports progress and renews the lease.
 * @returns 'go on', 'cancel' where somebody asked for it, or 'lost' where the run has another owner
 */
export async function reportProgress(
  db: Knex,
  id: string,
  owner: string,
  progress: number,
): Promise<'go on' | 'cancel' | 'lost'> {
  const now = Date.now();
  const [row] = await db('runs')
    .where({ id, owner, state: 'running' })
    .update({ progress, lease_until: now + LEASE_MS, changed_at: now })
    .returning('cancel_asked');
  return !row ? 'lost' : row.cancel_asked ? 'cancel' : 'go on';
}

/** Ends a run; only its owner can. Returns whether it did. */
export async function finishRun(
  db: Knex,
  id: string,
  owner: string,
  outcome:
    | { state: 'done'; result: RunResult }
    | { state: 'failed'; error: string }
    | { state: 'cancelled' },
): Promise<boolean> {
  const now = Date.now();
  const touched = await db('runs')
    .where({ id, owner, state: 'running' })
    .update({
      state: outcome.state,
      progress: outcome.state === 'done' ? 1 : 0,
      error: outcome.state === 'failed' ? outcome.error : null,
      result: outcome.state === 'done' ? JSON.stringify(outcome.result) : null,
      owner: null,
      lease_until: null,
      finished_at: now,
      changed_at: now,
    });
  return touched > 0;
}

/** Finished runs that the pace is told from, of each way to enlarge and of all. */
const TOLD_BY = 5;
/** Runs that are over so soon say more of their start than of their pace. */
const LEAST_SECONDS = 0.8;

/** How fast results are made here, by the middle of the last finished runs. */
export async function readPace(db: Knex): Promise<Pace> {
  const rows = await db('runs')
    .where({ state: 'done' })
    .whereNotNull('result')
    .orderBy('finished_at', 'desc')
    .limit(60)
    .select('result', 'recipe');
  const all: number[] = [];
  const byWay = new Map<string, number[]>();
  for (const row of rows) {
    const { seconds } = RunResult.parse(JSON.parse(row.result));
    const recipe = Recipe.safeParse(JSON.parse(row.recipe));
    if (seconds < LEAST_SECONDS || !recipe.success) continue;
    const speed = secondsFor(recipe.data, 1) / seconds;
    all.push(speed);
    const way = throughputKey(recipe.data);
    byWay.set(way, [...(byWay.get(way) ?? []), speed]);
  }
  const middle = (speeds: number[]) => {
    const last = speeds.slice(0, TOLD_BY).sort((a, b) => a - b);
    return last[last.length >> 1]!;
  };
  return {
    overall: all.length > 0 ? middle(all) : 1,
    ways: Object.fromEntries([...byWay].map(([way, speeds]) => [way, middle(speeds)])),
    measured: all.length > 0,
  };
}
