import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import {
  runCost,
  throughputOf,
  type FinishedRun,
  type RunCost,
  type Throughput,
} from '@/core/render/throughput';
import { RenderPayload, RenderResult, type TaskKind } from '@/core/shop/task';

/** Runs that are over so soon say more of their start than of their throughput. */
const LEAST_SECONDS = 0.8;
/** Finished runs that are looked at, the newest ones. */
const LOOKED_AT = 60;

/** What runs were estimated by: they are asked for with every run that ends. */
const costs = new LRUCache<string, { cost: RunCost | null }>({ max: 4 * LOOKED_AT });

/** How fast results are made here, by the last finished runs. */
export async function readThroughput(db: Knex): Promise<Throughput> {
  const rows: { id: string; result: string }[] = await db('tasks')
    .where({ kind: 'render' satisfies TaskKind, state: 'done' })
    .whereNotNull('result')
    .orderBy('finished_at', 'desc')
    .limit(LOOKED_AT)
    .select('id', 'result');
  const known = await costsOf(db, rows);
  return throughputOf(
    rows.flatMap(({ id, result }): FinishedRun[] => {
      const { seconds, resumed } = RenderResult.parse(JSON.parse(result));
      const cost = known.get(id);
      return resumed || seconds < LEAST_SECONDS || !cost ? [] : [{ cost, seconds }];
    }),
  );
}

async function costsOf(
  db: Knex,
  runs: readonly { id: string }[],
): Promise<Map<string, RunCost | null>> {
  const missing = runs.map(({ id }) => id).filter((id) => !costs.has(id));
  const rows: { id: string; payload: string }[] =
    missing.length === 0 ? [] : await db('tasks').whereIn('id', missing).select('id', 'payload');
  for (const { id, payload } of rows) {
    // One of an earlier version may not be read.
    const read = RenderPayload.safeParse(JSON.parse(payload));
    costs.set(id, { cost: read.success ? runCost(read.data.recipe) : null });
  }
  return new Map(runs.map(({ id }) => [id, costs.get(id)?.cost ?? null]));
}
