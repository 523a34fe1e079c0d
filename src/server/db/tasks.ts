import type { Knex } from 'knex';
import {
  ProofTask,
  Run,
  SheetTask,
  Task,
  TaskState,
  type TaskEvent,
  type TaskKind,
} from '@/core/shop/task';
import { Problem } from '../problem';

/** A claimed task goes back to the queue when its owner hasn't been heard of for so long. */
export const LEASE_MS = 10_000;
/** A task that took its process down so often is given up. */
const MOST_DEATHS = 3;
/** Tasks of a piece that are shown, the newest ones. */
const SHOWN = 20;

/** A file that a task made, below the data folder. */
export interface MadeFile {
  role: Task['artifacts'][number]['role'];
  path: string;
  fileName: string;
  bytes: number;
  digest: string;
}

interface Row {
  id: string;
  kind: string;
  parent: string | null;
  job_id: number;
  piece_id: number;
  title: string;
  payload: string;
  state: string;
  progress: number;
  queued_at: number;
  rank: number;
  started_at: number | null;
  finished_at: number | null;
  error: string | null;
  result: string | null;
  /** a JSON list */
  artifacts: string;
}

const toTask = (row: Row): Task =>
  Task.parse({
    id: row.id,
    kind: row.kind,
    parent: row.parent,
    jobId: row.job_id,
    pieceId: row.piece_id,
    jobTitle: row.title,
    state: row.state,
    progress: row.progress,
    queuedAt: row.queued_at,
    rank: row.rank,
    startedAt: row.started_at,
    finishedAt: row.finished_at,
    error: row.error,
    payload: JSON.parse(row.payload),
    result: row.result && JSON.parse(row.result),
    artifacts: JSON.parse(row.artifacts),
  });

const ARTIFACTS = `(select json_group_array(json_object('role', role, 'fileName', file_name, 'bytes', bytes,
  'digest', digest, 'goneAt', gone_at)) from artifacts where task_id = tasks.id)`;

const query = (db: Knex) =>
  db('tasks')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .select('tasks.*', 'pieces.job_id', 'jobs.title', { artifacts: db.raw(ARTIFACTS) });

export async function runsOfPiece(db: Knex, pieceId: number): Promise<Run[]> {
  const rows = await query(db)
    .where({ 'tasks.piece_id': pieceId, 'tasks.kind': 'render' satisfies TaskKind })
    .orderBy('tasks.queued_at', 'desc')
    .limit(SHOWN);
  return rows.map((row) => Run.parse(toTask(row)));
}

/** Names that results of a job have already: those of its other pictures, and of other trials. */
export async function resultNamesTaken(
  db: Knex,
  jobId: number,
  own: { pieceId: number; trialId: string; stage: string | null },
): Promise<Set<string>> {
  const rows = await db('tasks')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .where({ 'pieces.job_id': jobId, 'tasks.kind': 'render' })
    .select<{ piece: number; trial: string; stage: string | null; name: string }[]>(
      'tasks.piece_id as piece',
      db.raw("json_extract(tasks.payload, '$.trialId') as trial"),
      db.raw("json_extract(tasks.payload, '$.stage') as stage"),
      db.raw("json_extract(tasks.payload, '$.fileName') as name"),
    );
  const others = rows.filter(
    ({ piece, trial, stage }) =>
      piece !== own.pieceId || trial !== own.trialId || stage !== own.stage,
  );
  return new Set(others.map(({ name }) => name));
}

/** Comparison sheets of a piece that are there or on their way, the newest first. */
export async function sheetsOfPiece(db: Knex, pieceId: number): Promise<SheetTask[]> {
  const rows = await query(db)
    .where({ 'tasks.piece_id': pieceId, 'tasks.kind': 'sheet' satisfies TaskKind })
    .whereNot('tasks.state', 'cancelled' satisfies TaskState)
    .orderBy('tasks.queued_at', 'desc')
    .limit(SHOWN);
  return rows.map((row) => SheetTask.parse(toTask(row)));
}

/** Proofs of a piece that are there or on their way, the newest first. */
export async function proofsOfPiece(db: Knex, pieceId: number): Promise<ProofTask[]> {
  const rows = await query(db)
    .where({ 'tasks.piece_id': pieceId, 'tasks.kind': 'proof' satisfies TaskKind })
    .whereNot('tasks.state', 'cancelled' satisfies TaskState)
    .orderBy('tasks.queued_at', 'desc')
    .limit(SHOWN);
  return rows.map((row) => ProofTask.parse(toTask(row)));
}

/** The number of the last change of any task. */
export async function lastTaskChange(db: Knex): Promise<number> {
  const [row] = await db('tasks').max({ last: 'change' });
  return Number(row?.last ?? 0);
}

/**
 * What is told of tasks that changed after a change.
 * @returns their states, and the number of the last of these changes
 */
export async function tasksChangedAfter(
  db: Knex,
  after: number,
): Promise<{ events: TaskEvent[]; last: number }> {
  const columns = ['id', 'piece_id', 'state', 'progress', 'rank', 'change'];
  const rows = await db('tasks')
    .join('pieces', 'pieces.id', 'tasks.piece_id')
    .where('tasks.change', '>', after)
    .orderBy('tasks.change')
    .select('pieces.job_id', ...columns.map((name) => `tasks.${name}`));
  return {
    events: rows.map(({ id, job_id: jobId, piece_id: pieceId, state, progress, rank }) => ({
      ...{ id, jobId, pieceId, progress, rank },
      state: TaskState.parse(state),
    })),
    last: rows.at(-1)?.change ?? after,
  };
}

/** What is written with every change of a task. Whoever writes is alone, so numbers follow the order of writing. */
export const changedNow = (db: Knex) => ({
  changed_at: Date.now(),
  change: db.raw('(select coalesce(max(change), 0) + 1 from tasks)'),
});

/** Tasks that are not over. */
export const openTasks = async (db: Knex): Promise<Task[]> =>
  (await query(db).whereIn('tasks.state', ['queued', 'running']).orderBy('tasks.rank')).map(toTask);

export async function readTask(db: Knex, id: string): Promise<Task> {
  const row = await query(db).where('tasks.id', id).first();
  if (!row) throw new Problem('missing', 'There is no such run.');
  return toTask(row);
}

/** The path of a task's file below the data folder, or null where it made none, or that went. */
export async function artifactPath(db: Knex, id: string, role: string): Promise<string | null> {
  const row = await db('artifacts').where({ task_id: id, role, gone_at: null }).first('path');
  return row ? row.path : null;
}

/** A task and the path of a file that it made, by that file's digest; null where none is there any more. */
export async function taskOfDigest(
  db: Knex,
  digest: string,
): Promise<{ task: Task; path: string } | null> {
  const made = await db('artifacts').where({ digest, gone_at: null }).first('task_id', 'path');
  return made ? { task: await readTask(db, made.task_id), path: made.path } : null;
}

/** A task that is to be queued. */
export type NewTask = Pick<Task, 'id' | 'kind' | 'pieceId' | 'payload'> & { parent?: string };

/**
 * Queues a task, behind all that there are. One that is to do the very same and isn't over yet is taken for it: whoever
 * asks six times gets one. One statement, so that this holds whoever asks at the same moment.
 */
export async function queueTask(db: Knex, task: NewTask): Promise<Task> {
  const { id, kind, parent = null, pieceId } = task;
  const payload = JSON.stringify(task.payload);
  const now = Date.now();
  const same = [kind, parent, pieceId, payload];
  await db.raw(
    `insert into tasks (id, kind, parent, piece_id, payload, state, queued_at, rank, changed_at, change)
     select ?, ?, ?, ?, ?, 'queued', ?, (select coalesce(max(rank), 0) + 1 from tasks), ?,
       (select coalesce(max(change), 0) + 1 from tasks)
     where not exists (${SAME_AND_OPEN})`,
    [id, ...same, now, now, ...same],
  );
  const [queued] = await db.raw(SAME_AND_OPEN, same);
  return readTask(db, queued?.id ?? id);
}

const SAME_AND_OPEN = `select id from tasks as same where kind = ? and parent is ? and piece_id = ? and payload = ?
  and state in ('queued', 'running') and not cancel_asked`;

/**
 * Moves a task that waits before another that waits, or to the end of the queue.
 * @throws Problem where it began meanwhile
 */
export async function moveTask(db: Knex, id: string, before: string | null): Promise<Task> {
  await db.transaction(async (on) => {
    // Writes first, so that nobody claims one of them between looking and ordering.
    const touched = await on('tasks').where({ id, state: 'queued' }).update(changedNow(on));
    if (touched === 0) {
      throw new Problem('conflict', 'It does not wait any more, so its place is as it is.');
    }
    const waiting: { id: string; rank: number }[] = await on('tasks')
      .where({ state: 'queued' })
      .orderBy(['rank', 'queued_at', 'id'])
      .select('id', 'rank');
    const others = waiting.filter((task) => task.id !== id).map((task) => task.id);
    const at = others.indexOf(before ?? '');
    others.splice(at < 0 ? others.length : at, 0, id);
    // Ranks are given anew, whole numbers apart: they never run out.
    const first = Math.min(...waiting.map(({ rank }) => rank));
    for (const [i, one] of others.entries()) {
      await on('tasks')
        .where({ id: one, state: 'queued' })
        .update({ rank: first + i, ...changedNow(on) });
    }
  });
  return readTask(db, id);
}

/**
 * Asks for a task to end, and all that belong to it. What waits ends at once, what runs when its process
 * hears of it.
 */
export async function cancelTask(db: Knex, id: string): Promise<Task> {
  const now = Date.now();
  const family = db
    .withRecursive('family', ['id'], (of) =>
      of
        .select('id')
        .from('tasks')
        .where({ id })
        .unionAll((children) =>
          children.select('tasks.id').from('tasks').join('family', 'family.id', 'tasks.parent'),
        ),
    )
    .select('id')
    .from('family');
  await db('tasks')
    .where({ state: 'queued' })
    .whereIn('id', family.clone())
    .update({ state: 'cancelled', finished_at: now, ...changedNow(db) });
  await db('tasks')
    .where({ state: 'running' })
    .whereIn('id', family)
    .update({ cancel_asked: true, ...changedNow(db) });
  return readTask(db, id);
}

const GIVEN_UP = `It took the process of runs down ${MOST_DEATHS} times and was given up. The job is unharmed; order fewer ppi or ask for help.`;

/** What becomes of tasks whose process is gone: they end where that was asked for, or wait again. */
const givenBack = (db: Knex, { died }: { died: boolean }) => ({
  attempts: db.raw('attempts + ?', [Number(died)]),
  state: db.raw(
    "case when cancel_asked then 'cancelled' when attempts + ? >= ? then 'failed' else 'queued' end",
    [Number(died), MOST_DEATHS],
  ),
  error: db.raw('case when not cancel_asked and attempts + ? >= ? then ? end', [
    Number(died),
    MOST_DEATHS,
    GIVEN_UP,
  ]),
  finished_at: db.raw('case when cancel_asked or attempts + ? >= ? then ? end', [
    Number(died),
    MOST_DEATHS,
    Date.now(),
  ]),
  owner: null,
  lease_until: null,
  ...changedNow(db),
});

/**
 * Gives back what is said to be at work, once it is known that nobody works on it.
 * @param died whether its process died of it; only that counts against a task
 */
export async function giveAllBack(db: Knex, how: { died: boolean }): Promise<void> {
  // One by one, since each change has a number of its own.
  const running = await db('tasks').where({ state: 'running' }).select('id', 'owner');
  for (const { id, owner } of running) {
    await db('tasks').where({ id, owner, state: 'running' }).update(givenBack(db, how));
  }
}

/** Gives a task back that its owner stops before its end; it waits again, or ends where that was asked for. */
export async function giveBack(db: Knex, id: string, owner: string): Promise<void> {
  await db('tasks')
    .where({ id, owner, state: 'running' })
    .update(givenBack(db, { died: false }));
}

/** A lease that is over; also one that no lease reaches: the clock was set back since, and it would be waited for till then. */
const isLapsed = (task: Knex.QueryBuilder, now: number): void =>
  void task.where('lease_until', '<', now).orWhere('lease_until', '>', now + LEASE_MS);

/**
 * Takes the first task that waits, or whose owner fell silent, which counts as its death. The claim is one statement,
 * so that no task has two owners.
 */
export async function claimTask(db: Knex, owner: string): Promise<Task | null> {
  const now = Date.now();
  const silent = await db('tasks')
    .where({ state: 'running' })
    .andWhere((lapsed) => isLapsed(lapsed, now))
    .select('id');
  for (const { id } of silent) {
    await db('tasks')
      .where({ id, state: 'running' })
      .andWhere((lapsed) => isLapsed(lapsed, now))
      .update(givenBack(db, { died: true }));
  }
  const waiting = db('tasks').where({ state: 'queued' }).orderBy('rank').limit(1).select('id');
  const [row] = await db('tasks')
    .whereIn('id', waiting)
    .update({
      ...{ state: 'running', owner, lease_until: now + LEASE_MS, started_at: now },
      ...changedNow(db),
    })
    .returning('id');
  return row ? readTask(db, row.id) : null;
}

/**
 * Reports progress and renews the lease.
 * @returns 'go on', 'cancel' where somebody asked for it, or 'lost' where the task has another owner
 */
export async function reportProgress(
  db: Knex,
  id: string,
  owner: string,
  progress: number,
): Promise<'go on' | 'cancel' | 'lost'> {
  const now = Date.now();
  const [row] = await db('tasks')
    .where({ id, owner, state: 'running' })
    .update({ progress, lease_until: now + LEASE_MS, ...changedNow(db) })
    .returning('cancel_asked');
  return !row ? 'lost' : row.cancel_asked ? 'cancel' : 'go on';
}

/** How a task ended. */
export type Outcome =
  | {
      state: 'done';
      result: Task['result'];
      files: readonly MadeFile[];
      also?: (trx: Knex) => Promise<void>;
    }
  | { state: 'failed'; error: string }
  | { state: 'cancelled' };

/** Ends a task; only its owner can. Returns whether it did. */
export async function finishTask(
  db: Knex,
  id: string,
  owner: string,
  outcome: Outcome,
): Promise<boolean> {
  const now = Date.now();
  return db.transaction(async (on) => {
    const touched = await on('tasks')
      .where({ id, owner, state: 'running' })
      .update({
        state: outcome.state,
        progress: outcome.state === 'done' ? 1 : 0,
        error: outcome.state === 'failed' ? outcome.error : null,
        result: outcome.state === 'done' ? JSON.stringify(outcome.result) : null,
        owner: null,
        lease_until: null,
        finished_at: now,
        ...changedNow(on),
      });
    if (touched === 0) return false;
    for (const { role, path, fileName, bytes, digest } of outcome.state === 'done'
      ? outcome.files
      : []) {
      await on('artifacts').insert({ task_id: id, role, path, file_name: fileName, bytes, digest });
    }
    if (outcome.state === 'done') await outcome.also?.(on);
    return true;
  });
}
