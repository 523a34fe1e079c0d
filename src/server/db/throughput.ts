import type { Knex } from 'knex';
import { throughputOf, type FinishedRun, type Throughput } from '@/core/render/throughput';
import { RenderPayload, RenderResult, type TaskKind } from '@/core/shop/task';

/** Runs that are over so soon say more of their start than of their throughput. */
const LEAST_SECONDS = 0.8;
/** Finished runs that are looked at, the newest ones. */
const LOOKED_AT = 60;

/** How fast results are made here, by the last finished runs. */
export async function readThroughput(db: Knex): Promise<Throughput> {
  const rows = await db('tasks')
    .where({ kind: 'render' satisfies TaskKind, state: 'done' })
    .whereNotNull('result')
    .orderBy('finished_at', 'desc')
    .limit(LOOKED_AT)
    .select('result', 'payload');
  return throughputOf(
    rows.flatMap((row): FinishedRun[] => {
      const { seconds, resumed } = RenderResult.parse(JSON.parse(row.result));
      const payload = RenderPayload.safeParse(JSON.parse(row.payload));
      if (resumed || seconds < LEAST_SECONDS || !payload.success) return [];
      return [{ recipe: payload.data.recipe, seconds }];
    }),
  );
}
