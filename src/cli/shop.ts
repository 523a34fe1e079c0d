import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Knex } from 'knex';
import { config } from '@/server/config';
import { openDatabase } from '@/server/db/connection';
import { Problem } from '@/server/problem';

/** Whether there is a shop. */
export function isShop(folder: string | undefined): boolean {
  if (folder) process.env.LONTANO_DATA = resolve(folder);
  return existsSync(config().database);
}

/**
 * Works on a shop's records, whether it is open or not.
 * @throws Problem where there is none, or it is of another version
 */
export async function withShop<T>(
  folder: string | undefined,
  work: (db: Knex) => Promise<T>,
): Promise<T> {
  if (!isShop(folder)) throw new Problem('input', `There is no shop in ${config().data}.`);
  const db = await openDatabase(config().database, { migrate: false });
  try {
    return await work(db);
  } finally {
    await db.destroy();
  }
}
