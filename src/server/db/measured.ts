import type { Knex } from 'knex';

/** Bytes of files, as they were last measured. */
export interface Measured {
  originals: number;
  /** what can be made again */
  again: number;
}

export async function keepMeasured(db: Knex, measured: Measured): Promise<void> {
  await db('measured')
    .insert({ id: 1, ...measured })
    .onConflict('id')
    .merge();
}

export async function lastMeasured(db: Knex): Promise<Measured | null> {
  const row = await db('measured').first('originals', 'again');
  return row ? { originals: Number(row.originals), again: Number(row.again) } : null;
}
