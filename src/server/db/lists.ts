import type { Knex } from 'knex';
import { Lists } from '@/core/shop/lists';
import { listDevices } from './devices';

/** What the shop prints with and on. */
export async function readLists(db: Knex): Promise<Lists> {
  const all = (table: string, columns: string[]) => db(table).orderBy('id').select(columns);
  return Lists.parse({
    devices: await listDevices(db),
    materials: await all('materials', ['name', 'distance']),
    sheets: await all('sheets', ['name', 'width', 'height']),
  });
}
