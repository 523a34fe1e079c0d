import type { Knex } from 'knex';

/** How long it is remembered what was asked for, in milliseconds: whoever asks again does so within minutes. */
const KNOWN_MS = 86_400_000;

/** What came of something: a job, and pictures of it. */
export interface Came {
  job: number;
  pieces: number[];
}

/**
 * Does something that adds to the board, unless it was done by its name before.
 * @param name of what is asked for; what has none is done
 * @param act does it, and calls what it is given in the same transaction
 */
export async function once(
  db: Knex,
  name: string | undefined,
  act: (note: (trx: Knex, came: Came) => Promise<void>) => Promise<Came>,
): Promise<Came> {
  if (name === undefined) return act(() => Promise.resolve());
  const before = await known(db, name);
  if (before) return before;
  try {
    return await act((trx, came) => keep(trx, name, came));
  } catch (error) {
    // Both were on their way: the one that came first has done it.
    const first = await known(db, name);
    if (first) return first;
    throw error;
  }
}

async function known(db: Knex, name: string): Promise<Came | null> {
  const row: { job_id: number; pieces: string } | undefined = await db('asked_once')
    .where({ name })
    .first();
  return row ? { job: row.job_id, pieces: JSON.parse(row.pieces) as number[] } : null;
}

async function keep(trx: Knex, name: string, { job, pieces }: Came): Promise<void> {
  const at = Date.now();
  await trx('asked_once').insert({ name, job_id: job, pieces: JSON.stringify(pieces), at });
  await trx('asked_once')
    .where('at', '<', at - KNOWN_MS)
    .delete();
}
