import type { Knex } from 'knex';
import type { Lists } from '@/core/shop/lists';
import { listDevices } from './devices';
import { readSettings } from './settings';

/** What the shop prints with and on. */
export async function readLists(db: Knex): Promise<Lists> {
  const { materials, sheets, unit } = await readSettings(db);
  const devices = (await listDevices(db)).map(({ name, ppi }) => ({ name, ppi }));
  return { devices, materials, sheets, unit };
}
