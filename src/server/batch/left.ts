import type { Knex } from 'knex';
import { LEFT, type BatchHead } from '@/core/batch/batch';
import { estimateBy, type RunCost, type Throughput } from '@/core/render/throughput';
import { readThroughput } from '../db/throughput';
import { presentItems, STATE } from './rows';

/** Finished pictures that a batch's own pace is told by, the newest ones; and how many say enough. */
const TOLD_BY = 20;
const ENOUGH = 3;
/** How far what is left may be off the pace of what is done. */
const DOUBT = 0.15;

/** Seconds until all pictures of a batch are made, at the pace of those that are; null where nothing is left. */
export async function leftOf(db: Knex, batch: number): Promise<BatchHead['left']> {
  const left: { cost: string | null; progress: number | null; count: number }[] =
    await presentItems(db, batch)
      .whereRaw(`${STATE} in (${LEFT.map(() => '?').join()})`, [...LEFT])
      .groupByRaw('1, 2')
      .select(
        db.raw("json_extract(facts, '$.cost') as cost"),
        db.raw("iif(tasks.state = 'running', tasks.progress, 0) as progress"),
      )
      .count({ count: '*' });
  if (left.length === 0) return null;
  const throughput = await readThroughput(db);
  const sum = { least: 0, likely: 0, most: 0 };
  for (const { cost, progress, count } of left) {
    const one = cost === null ? null : estimateBy(JSON.parse(cost) as RunCost, throughput);
    const times = count * (1 - Number(progress ?? 0));
    if (one) for (const key of ['least', 'likely', 'most'] as const) sum[key] += times * one[key];
  }
  const pace = await paceOf(db, batch, throughput);
  return pace === null
    ? { least: sum.least, most: sum.most }
    : { least: sum.likely * pace * (1 - DOUBT), most: sum.likely * pace * (1 + DOUBT) };
}

/** Real seconds to an estimated one, with what passes between runs; null where too few are done. */
async function paceOf(db: Knex, batch: number, throughput: Throughput): Promise<number | null> {
  const done: { cost: string; started: number; finished: number }[] = await presentItems(db, batch)
    .where('tasks.state', 'done')
    .whereRaw("json_extract(facts, '$.cost') is not null")
    .orderBy('tasks.finished_at', 'desc')
    .limit(TOLD_BY)
    .select(db.raw("json_extract(facts, '$.cost') as cost"), {
      ...{ started: 'tasks.started_at', finished: 'tasks.finished_at' },
    });
  if (done.length < ENOUGH) return null;
  let spent = 0;
  let estimated = 0;
  for (const [i, { cost, started, finished }] of done.entries()) {
    const before = done[i + 1]?.finished;
    // What was between two runs belongs to it, unless somebody paused, or others' runs came between.
    const from = before !== undefined && started - before < BETWEEN_MS ? before : started;
    spent += (finished - from) / 1000;
    estimated += estimateBy(JSON.parse(cost) as RunCost, throughput).likely;
  }
  return estimated > 0 ? spent / estimated : null;
}

const BETWEEN_MS = 2000;
