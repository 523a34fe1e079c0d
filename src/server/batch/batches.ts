import type { Knex } from 'knex';
import {
  BATCH_MOST,
  BatchPlan,
  BatchState,
  type BatchChange,
  type BatchHead,
  type ItemState,
  type Judgement,
  type NewBatch,
  type NewItems,
} from '@/core/batch/batch';
import { changedNow as taskChanged } from '../db/tasks';
import { PAGE_OF_WORK } from '../db/originals';
import { Problem } from '../problem';
import { changedNow, itemsChanged, touchBatch } from './changes';
import { leftOf } from './left';
import { presentItems, STATE } from './rows';

interface Row {
  id: number;
  name: string;
  plan: string;
  state: string;
  refused: string;
  trouble: string | null;
  folder_trouble: string | null;
  created_at: number;
}

export async function addBatch(db: Knex, { name, plan }: NewBatch): Promise<BatchHead> {
  const [{ id }] = await db('batches')
    .insert({
      ...{ name, plan: JSON.stringify(plan), state: 'prepared' satisfies BatchState },
      ...{ created_at: Date.now(), ...changedNow(db) },
    })
    .returning('id');
  return readBatch(db, id);
}

/** Batches, the newest first. */
export async function listBatches(db: Knex): Promise<BatchHead[]> {
  const rows: Row[] = await db('batches')
    .whereNull('deleted_at')
    .orderBy('id', 'desc')
    .limit(LISTED);
  return Promise.all(rows.map((row) => headOf(db, row)));
}

const LISTED = 200;

/** @throws Problem where it is gone */
export async function readBatch(db: Knex, id: number): Promise<BatchHead> {
  return headOf(db, await rowOf(db, id));
}

async function rowOf(db: Knex, id: number): Promise<Row> {
  const row = await db('batches').where({ id, deleted_at: null }).first();
  if (!row) throw new Problem('missing', 'There is no such batch, or it was deleted.');
  return row;
}

/** What is decided in a batch for all its pictures. */
export const planOfBatch = async (db: Knex, id: number): Promise<BatchPlan> =>
  BatchPlan.parse(JSON.parse((await rowOf(db, id)).plan));

/** Pictures that a batch is shown by in the list. */
const SHOWN = 6;

async function headOf(db: Knex, row: Row): Promise<BatchHead> {
  const items = () => presentItems(db, row.id);
  const states: { state: ItemState; count: number }[] = await items()
    .select({ state: db.raw(STATE) })
    .count({ count: '*' })
    .groupByRaw('1');
  const judged: { judgement: Judgement; count: number }[] = await items()
    .whereNotNull('judgement')
    .groupBy('judgement')
    .select('judgement')
    .count({ count: '*' });
  const left = await leftOf(db, row.id);
  const shown: { digest: string; page: number }[] = await items()
    .orderBy(['position', 'batch_items.id'])
    .limit(SHOWN)
    .select('pieces.digest', { page: db.raw(PAGE_OF_WORK) });
  return {
    ...{
      id: row.id,
      name: row.name,
      state: row.state === 'done' && left ? 'paused' : BatchState.parse(row.state),
    },
    plan: BatchPlan.parse(JSON.parse(row.plan)),
    createdAt: Number(row.created_at),
    states: Object.fromEntries(states.map(({ state, count }) => [state, count])),
    pictures: states.reduce((sum, { count }) => sum + count, 0),
    judged: Object.fromEntries(judged.map(({ judgement, count }) => [judgement, count])),
    refused: JSON.parse(row.refused),
    trouble: row.trouble ?? row.folder_trouble,
    left,
    pieces: shown,
  };
}

/** Keeps which files could not be taken in. @param trx which has written before */
export async function noteRefused(
  trx: Knex,
  id: number,
  refused: ReturnType<typeof NewItems.parse>['refused'],
): Promise<void> {
  if (refused.length === 0) return;
  const known = JSON.parse((await rowOf(trx, id)).refused) as typeof refused;
  const names = new Set(refused.map(({ name }) => name));
  const all = [...known.filter(({ name }) => !names.has(name)), ...refused].slice(-BATCH_MOST);
  await trx('batches')
    .where({ id })
    .update({ refused: JSON.stringify(all) });
}

/** Renames a batch, runs or pauses it, or decides where its results go. */
export async function changeBatch(db: Knex, id: number, change: BatchChange): Promise<BatchHead> {
  const { name, state, ...planned } = change;
  await db.transaction(async (trx) => {
    await touchBatch(trx, id);
    const row = await rowOf(trx, id);
    const plan = BatchPlan.parse({ ...(JSON.parse(row.plan) as object), ...planned });
    await trx('batches')
      .where({ id })
      .update({ name: name ?? row.name, plan: JSON.stringify(plan) });
    if (state === 'running') await run(trx, id);
    if (state === 'paused') await pause(trx, id, null);
  });
  return readBatch(db, id);
}

const run = (trx: Knex, id: number) =>
  trx('batches')
    .where({ id })
    .whereNot('state', 'running' satisfies BatchState)
    .update({ state: 'running' satisfies BatchState, trouble: null, started_at: Date.now() });

/**
 * Makes no more pictures of a batch. What waits for its run waits in the batch again; what runs is finished.
 * @param trx which has written before
 * @param trouble why, where nobody asked for it
 */
export async function pause(trx: Knex, id: number, trouble: string | null): Promise<void> {
  await trx('batches')
    .where({ id, state: 'running' satisfies BatchState })
    .update({ state: 'paused' satisfies BatchState, trouble });
  await takeBackQueued(trx, id);
}

async function takeBackQueued(trx: Knex, id: number): Promise<void> {
  const queued: string[] = await trx('tasks')
    .where({ state: 'queued' })
    .whereIn(
      'id',
      trx('batch_items').where({ batch_id: id }).whereNotNull('task_id').select('task_id'),
    )
    .pluck('id');
  for (const task of queued) {
    // One by one, since each change has a number of its own.
    const taken = await trx('tasks')
      .where({ id: task, state: 'queued' })
      .update({ state: 'cancelled', finished_at: Date.now(), ...taskChanged(trx) });
    if (taken > 0)
      await trx('batch_items').where({ batch_id: id, task_id: task }).update({ task_id: null });
  }
  await itemsChanged(trx, id, { whole: true });
}

/** Takes a batch off the list; its pictures' jobs stay as they are. It can be brought back. */
export async function deleteBatch(db: Knex, id: number): Promise<void> {
  await db.transaction(async (trx) => {
    await touchBatch(trx, id);
    await pause(trx, id, null);
    await trx('batches').where({ id }).update({ deleted_at: Date.now() });
  });
}

export async function restoreBatch(db: Knex, id: number): Promise<BatchHead> {
  await db('batches')
    .where({ id })
    .update({ deleted_at: null, ...changedNow(db) });
  return readBatch(db, id);
}
