import type { Knex } from 'knex';
import { secondsFor, throughputKey } from '@/core/render/cost';
import type { Throughput } from '@/core/shop/lists';
import { RenderPayload, RenderResult, type TaskKind } from '@/core/shop/task';

/** Finished runs that the throughput is told from, of each way to enlarge and of all. */
const TOLD_BY = 5;
/** Runs that are over so soon say more of their start than of their throughput. */
const LEAST_SECONDS = 0.8;
/** Finished runs that are looked at, the newest ones. */
const LOOKED_AT = 60;

/** How fast results are made here, by the middle of the last finished runs. */
export async function readThroughput(db: Knex): Promise<Throughput> {
  const rows = await db('tasks')
    .where({ kind: 'render' satisfies TaskKind, state: 'done' })
    .whereNotNull('result')
    .orderBy('finished_at', 'desc')
    .limit(LOOKED_AT)
    .select('result', 'payload');
  const all: number[] = [];
  const byWay = new Map<string, number[]>();
  for (const row of rows) {
    const { seconds, resumed } = RenderResult.parse(JSON.parse(row.result));
    const payload = RenderPayload.safeParse(JSON.parse(row.payload));
    if (resumed || seconds < LEAST_SECONDS || !payload.success) continue;
    const { recipe } = payload.data;
    const speed = secondsFor(recipe, 1) / seconds;
    all.push(speed);
    const way = throughputKey(recipe);
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
