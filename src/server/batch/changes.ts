import type { Knex } from 'knex';
import type { BatchNews, BatchState } from '@/core/batch/batch';
import { Problem } from '../problem';

/** What is written with every change of a batch. Whoever writes is alone, so numbers follow the order of writing. */
export const changedNow = (db: Knex) => ({
  change: db.raw('(select coalesce(max(change), 0) + 1 from batches)'),
});

/** Says that a batch or pictures of it changed. The first statement of a transaction. @throws Problem where it is gone */
export async function touchBatch(trx: Knex, id: number): Promise<number> {
  const [row] = await trx('batches')
    .where({ id, deleted_at: null })
    .update(changedNow(trx))
    .returning('change');
  if (!row) throw new Problem('missing', 'This batch was deleted.');
  return row.change;
}

/** Gives rows the number of their batch's last change. @param which ids, or the whole batch. */
export async function itemsChanged(
  trx: Knex,
  id: number,
  which: { whole: true } | { items: readonly number[] },
): Promise<void> {
  const rows = trx('batch_items').where({ batch_id: id });
  if ('items' in which) rows.whereIn('id', which.items);
  await rows.update({ change: trx('batches').where({ id }).select('change') });
}

/** The number of the last change of any batch, and which of them run. */
export async function batchNews(db: Knex): Promise<BatchNews> {
  const [row] = await db('batches').max({ last: 'change' });
  const running: BatchNews['running'] = await db('batches')
    .where({ state: 'running' satisfies BatchState, deleted_at: null })
    .select('id', 'name');
  return { last: Number(row?.last ?? 0), running };
}
