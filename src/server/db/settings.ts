import type { Knex } from 'knex';
import { Settings, type SettingsChange } from '@/core/shop/settings';

/** What the shop decided; where it did not, or what it kept can't be read, as is usual. */
export async function readSettings(db: Knex): Promise<Settings> {
  const rows = await db('settings').select<{ name: string; value: string }[]>('name', 'value');
  const kept = Object.fromEntries(rows.map(({ name, value }) => [name, parsed(value)]));
  const read = Settings.safeParse(kept);
  return read.success ? read.data : Settings.parse({});
}

export async function changeSettings(db: Knex, change: SettingsChange): Promise<Settings> {
  const rows = Object.entries(change).map(([name, value]) => ({
    name,
    value: JSON.stringify(value),
  }));
  if (rows.length > 0) await db('settings').insert(rows).onConflict('name').merge();
  return readSettings(db);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
