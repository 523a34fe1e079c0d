import type { Knex } from 'knex';
import {
  BatchItem,
  ItemFacts,
  ItemState,
  Judgement,
  type ItemsKnown,
  type ItemsNews,
} from '@/core/batch/batch';
import { refreshItems } from './refresh';

/** Where a picture stands. A run that is named and not there yet was about to be queued. */
export const STATE = `case
  when batch_items.error is not null then 'failed'
  when tasks.id is null then 'not yet'
  when tasks.state = 'done' and batch_items.made is not batch_items.wanted then 'changed since'
  else tasks.state end`;

/** Pictures of a batch that are in it and whose jobs are there, with their runs. */
export const presentItems = (db: Knex, batch: number): Knex.QueryBuilder =>
  db('batch_items')
    .join('pieces', 'pieces.id', 'batch_items.piece_id')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .leftJoin('tasks', 'tasks.id', 'batch_items.task_id')
    .where({ 'batch_items.batch_id': batch, 'batch_items.left_at': null, 'jobs.deleted_at': null });

/** Rows of a batch that changed after what somebody knows. */
export async function itemsNews(db: Knex, batch: number, known: ItemsKnown): Promise<ItemsNews> {
  await refreshItems(db, batch);
  const rows = await presentItems(db, batch)
    .leftJoin('artifacts', (on) =>
      on.on('artifacts.task_id', 'tasks.id').andOnVal('artifacts.role', 'result'),
    )
    .where((changed) =>
      changed
        .where('batch_items.change', '>', known.items)
        .orWhere('tasks.change', '>', known.tasks),
    )
    .select('batch_items.*', 'pieces.job_id', 'pieces.revision', 'jobs.number', {
      ...{ file: 'pieces.file_name', state: db.raw(STATE), progress: 'tasks.progress' },
      ...{ failed: 'tasks.error', taskChange: 'tasks.change', result: 'artifacts.file_name' },
      ...{ bytes: 'artifacts.bytes', gone: 'artifacts.gone_at' },
    });
  const [counted] = await presentItems(db, batch).count({ count: '*' });
  const last = (column: string, before: number): number =>
    rows.reduce(
      (most: number, row: Record<string, unknown>) => Math.max(most, Number(row[column] ?? 0)),
      before,
    );
  return {
    rows: rows.map((row: Record<string, unknown>) => {
      const state = ItemState.parse(row.state);
      return BatchItem.parse({
        ...{ id: row.id, position: row.position, piece: row.piece_id, jobId: row.job_id },
        ...{ number: row.number, fileName: row.file, revision: row.revision, state },
        facts: ItemFacts.parse(JSON.parse(String(row.facts))),
        progress: state === 'running' ? row.progress : 0,
        task: row.task_id,
        error: state === 'failed' ? (row.error ?? row.failed) : null,
        result:
          row.result === null || row.gone !== null
            ? null
            : { name: row.result, bytes: Number(row.bytes) },
        delivered: row.delivered,
        judgement: Judgement.nullable().parse(row.judgement),
      });
    }),
    count: Number(counted!.count),
    known: { items: last('change', known.items), tasks: last('taskChange', known.tasks) },
  };
}
