import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { BatchPlan, type BatchState } from '@/core/batch/batch';
import { trialOf } from '@/core/recipe/trials';
import { readPiece } from '../db/pieces';
import { Problem } from '../problem';
import { requestRun } from '../tasks/request-run';
import { pause } from './batches';
import { itemsChanged, touchBatch } from './changes';
import { refreshItems } from './refresh';
import { presentItems, STATE } from './rows';

/** Runs of a batch that wait at once: others' runs come between, and pausing has little to take back. */
const AHEAD = 2;

/** Queues what batches that run have to make next, and says of those that have nothing left that they are done. */
export async function feedBatches(db: Knex): Promise<void> {
  const running: { id: number; plan: string }[] = await db('batches')
    .where({ state: 'running' satisfies BatchState, deleted_at: null })
    .orderBy('started_at')
    .select('id', 'plan');
  for (const { id, plan } of running) await feed(db, id, BatchPlan.parse(JSON.parse(plan)));
}

interface Next {
  id: number;
  piece_id: number;
  trial: string;
  task_id: string | null;
  wanted: string;
  state: string;
}

async function feed(db: Knex, batch: number, plan: BatchPlan): Promise<void> {
  await refreshItems(db, batch);
  for (;;) {
    const [open] = await presentItems(db, batch)
      .whereIn('tasks.state', ['queued', 'running'])
      .count({ all: '*', queued: db.raw("iif(tasks.state = 'queued', 1, null)") });
    if (Number(open!.queued) >= AHEAD) return;
    const next: Next | undefined = await presentItems(db, batch)
      .whereRaw(`${STATE} in ('not yet', 'changed since')`)
      .orderBy(['position', 'batch_items.id'])
      .first('batch_items.*', { state: db.raw(STATE) });
    if (!next) {
      if (Number(open!.all) === 0) await done(db, batch);
      return;
    }
    if (!(await begin(db, batch, plan, next))) return;
  }
}

/** Nothing is left, unless somebody changed something at this moment. */
async function done(db: Knex, batch: number): Promise<void> {
  await db.transaction(async (trx) => {
    await touchBatch(trx, batch);
    await trx('batches')
      .where({ id: batch, state: 'running' satisfies BatchState })
      .whereNotExists(
        presentItems(trx, batch)
          .whereRaw(`${STATE} in ('not yet', 'changed since', 'queued', 'running')`)
          .select(trx.raw('1')),
      )
      .update({ state: 'done' satisfies BatchState });
  });
}

/**
 * Queues the run of a picture. The batch knows its name before it is queued: killed in between, the same is queued again.
 * @returns whether the batch goes on
 */
async function begin(db: Knex, batch: number, plan: BatchPlan, next: Next): Promise<boolean> {
  // A name without a run was written by somebody who was killed before queueing it.
  const id = next.state === 'not yet' && next.task_id ? next.task_id : randomUUID();
  const named = await db.transaction(async (trx) => {
    await touchBatch(trx, batch);
    const touched = await trx('batch_items')
      .where({ id: next.id, task_id: next.task_id, left_at: null })
      .whereIn('batch_id', trx('batches').where({ id: batch, state: 'running' }).select('id'))
      .update({ task_id: id, made: next.wanted });
    await itemsChanged(trx, batch, { items: [next.id] });
    return touched > 0;
  });
  if (!named) return false;
  try {
    const { work, revision } = await readPiece(db, next.piece_id);
    const trialId = trialOf(work, next.trial).id;
    const forBatch = { batch, id, names: plan.names };
    await requestRun(db, next.piece_id, { revision, trialId }, forBatch);
    return true;
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    // Whoever changed it meanwhile wants it as it is now.
    const meanwhile = error.kind === 'conflict';
    await db.transaction(async (trx) => {
      await touchBatch(trx, batch);
      await trx('batch_items')
        .where({ id: next.id, task_id: id })
        .update({
          task_id: null,
          error: meanwhile || error.kind === 'full' ? null : error.message,
        });
      await itemsChanged(trx, batch, { items: [next.id] });
      // Without room on the disk none of the others could be made either.
      if (error.kind === 'full') await pause(trx, batch, error.message);
    });
    return error.kind !== 'full';
  }
}
