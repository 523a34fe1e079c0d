import type { Knex } from 'knex';
import { jobChanged } from './job-changes';
import { ShopEvent, type Happened } from '@/core/shop/event';

/** The most entries of a job that are shown. */
const SHOWN = 500;

/** Writes down what happened to a job. */
export async function appendEvent(
  db: Knex,
  { jobId, pieceId = null }: { jobId: number; pieceId?: number | null },
  happened: Happened,
): Promise<void> {
  const { kind, ...data } = happened;
  await db('events').insert({
    ...{ job_id: jobId, piece_id: pieceId, at: Date.now(), kind },
    data: JSON.stringify(data),
  });
  await jobChanged(db, jobId);
}

/** What happened to a job, the newest first. An entry that can't be read is left out, and said on the console. */
export async function eventsOfJob(db: Knex, jobId: number): Promise<ShopEvent[]> {
  const rows = await db('events')
    .where({ job_id: jobId })
    .orderBy('id', 'desc')
    .limit(SHOWN)
    .select('id', 'at', 'kind', 'data', { pieceId: 'piece_id' });
  return rows.flatMap(({ id, at, kind, data, pieceId }) => {
    const read = ShopEvent.safeParse({ ...parsed(data), id, at: Number(at), kind, pieceId });
    if (read.success) return [read.data];
    console.error(`event ${id} of job ${jobId} can't be read`);
    return [];
  });
}

function parsed(text: string): object {
  try {
    return JSON.parse(text) as object;
  } catch {
    return {};
  }
}
