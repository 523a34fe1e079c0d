import { z } from 'zod';
import type Database from 'better-sqlite3';
import { BatchHead, ItemsNews } from '../src/core/batch/batch';
import { BATCH_PATTERN } from '../src/core/output/names';
import { canonicalJson } from '../src/core/recipe/canonical';
import { ask } from './ask';
import type { Ledger } from './ledger';
import type { Somebody } from './technician';

/** Batches that are begun at most. */
const MOST = 3;

let begun = 0;

/** Begins a batch, or does something with one. @param piece a picture of some job */
export async function onBatches(who: Somebody, piece: number): Promise<void> {
  const { random, ledger } = who;
  const known = [...ledger.batches.keys()];
  if (known.length < MOST && random.below(3) === 0) return begin(who, piece);
  if (known.length === 0) return;
  const id = random.pick(known);
  const choice = random.below(10);
  if (choice < 3) return join(who, id, piece);
  if (choice < 5) await run(who, id);
  else if (choice < 6) await patch(who, id, { state: 'paused' });
  else await onItem(who, id);
}

async function begin(who: Somebody, piece: number): Promise<void> {
  const name = `${who.name} batch ${++begun}`;
  const answer = await ask(who, 'begin a batch', '/api/batches', 'POST', {
    name,
    plan: {
      size: { by: 'longest', length: { value: 9, unit: 'cm' } },
      steps: { by: who.random.below(2) ? 'suiting' : 'kept' },
      ...{ ppi: null, file: { format: 'jpeg', quality: 88 }, names: BATCH_PATTERN, folder: null },
    },
  });
  if (answer?.status !== 200) return;
  const { id } = BatchHead.parse(answer.json);
  who.ledger.batches.set(id, name);
  await join(who, id, piece);
  await run(who, id);
}

async function join(who: Somebody, id: number, piece: number): Promise<void> {
  const added = { pieces: [piece] };
  const answer = await ask(who, 'join a batch', `/api/batches/${id}/items`, 'POST', added);
  if (answer?.status === 200) who.ledger.joined.add(`${id} ${piece}`);
}

const patch = (who: Somebody, id: number, change: object) =>
  ask(who, 'change a batch', `/api/batches/${id}`, 'PATCH', change);

export const run = (who: Somebody, id: number) => patch(who, id, { state: 'running' });

async function itemsOf(who: Somebody, id: number): Promise<ItemsNews['rows']> {
  const answer = await ask(who, 'rows of a batch', `/api/batches/${id}/items`);
  return answer?.status === 200 ? ItemsNews.parse(answer.json).rows : [];
}

const act = (who: Somebody, id: number, what: object) =>
  ask(who, 'act on a batch', `/api/batches/${id}/acts`, 'POST', what);

async function onItem(who: Somebody, id: number): Promise<void> {
  const { random } = who;
  const items = await itemsOf(who, id);
  if (items.length === 0) return;
  const one = [random.pick(items).id];
  const choice = random.below(6);
  if (choice < 2) {
    const change = { ppi: 40 + random.below(60) };
    await act(who, id, { act: 'change', items: one, change });
  } else if (choice < 3) await act(who, id, { act: 'judge', items: one, judgement: 'good' });
  else if (choice < 4) await act(who, id, { act: 'move', items: one, to: 'first' });
  else await again(who, id);
}

/** Makes once more what was not made. */
export async function again(who: Somebody, id: number): Promise<void> {
  const failed = (await itemsOf(who, id)).filter(
    ({ state }) => state === 'failed' || state === 'cancelled',
  );
  if (failed.length > 0) await act(who, id, { act: 'retry', items: failed.map((one) => one.id) });
}

/** Batches that are made at the moment. */
export async function runningBatches(who: Somebody): Promise<number> {
  const answer = await ask(who, 'batches', '/api/batches');
  if (answer?.status !== 200) return 1;
  const all = z.array(BatchHead).parse(answer.json);
  return all.filter(({ state }) => state === 'running').length;
}

/** Compares batches of a closed shop with what it said that it kept: every picture is there, and made once. */
export function checkBatches(db: Database.Database, ledger: Ledger): string[] {
  const wrong: string[] = [];
  const names = new Map(
    (db.prepare('select id, name from batches').all() as { id: number; name: string }[]).map(
      ({ id, name }) => [id, name],
    ),
  );
  for (const [id, name] of ledger.batches) {
    if (names.get(id) !== name) wrong.push(`the batch ${name} is lost`);
  }
  const there = new Set(
    db.prepare("select batch_id || ' ' || piece_id from batch_items").pluck().all(),
  );
  const pieces = new Set(db.prepare('select id from pieces').pluck().all());
  for (const one of ledger.joined) {
    // A job that is gone for good takes its pictures with it.
    if (!there.has(one) && pieces.has(Number(one.split(' ')[1]))) {
      wrong.push(`the picture ${one.replace(' ', ', ')} of a batch is lost`);
    }
  }
  const rows = db
    .prepare(
      `select batch_items.id, batch_items.batch_id, batch_items.error, made, wanted, tasks.state, tasks.error as failed,
         artifacts.path
       from batch_items join pieces on pieces.id = batch_items.piece_id join jobs on jobs.id = pieces.job_id
       left join tasks on tasks.id = batch_items.task_id left join artifacts on artifacts.task_id = tasks.id
       where jobs.deleted_at is null and left_at is null`,
    )
    .all() as ItemRow[];
  for (const row of rows) {
    const why = row.error ?? row.failed;
    const whole = row.state === 'done' && row.path !== null && row.made === row.wanted;
    if (!whole && !why) {
      wrong.push(`picture ${row.id} of batch ${row.batch_id} was not made: ${row.state}`);
    }
  }
  const runs = db
    .prepare(
      `select piece_id, state, payload from tasks where kind = 'render'
       and json_extract(payload, '$.batch') is not null order by queued_at, rank`,
    )
    .all() as { piece_id: number; state: string; payload: string }[];
  const last = new Map<string, string>();
  for (const { piece_id: piece, state, payload } of runs) {
    const { batch, recipe, facts } = JSON.parse(payload) as Record<string, unknown>;
    const key = `${String(batch)} ${piece}`;
    const what = `${state} ${canonicalJson({ recipe, facts })}`;
    if (state === 'done' && last.get(key) === what) {
      wrong.push(`picture ${piece} of batch ${String(batch)} was made twice`);
    }
    last.set(key, what);
  }
  return wrong;
}

interface ItemRow {
  id: number;
  batch_id: number;
  error: string | null;
  made: string | null;
  wanted: string | null;
  state: string | null;
  failed: string | null;
  path: string | null;
}
