import type { Knex } from 'knex';
import type { NamedFolders } from '@/core/shop/folders';
import { readFolders } from './folders';

interface Row {
  name: string;
  taken_in: number;
  put_aside: number;
  trouble: string | null;
  looked_at: number | null;
}

/** The folders of the server's configuration by their names, and how the watched ones stand. */
export async function namedFolders(db: Knex): Promise<NamedFolders> {
  const { results, drops } = await readFolders();
  const rows: Row[] = await db('drops').select('*');
  return {
    results: results.map(({ name }) => name),
    watched: drops.map(({ name }) => {
      const row = rows.find((one) => one.name === name);
      return {
        ...{ name, takenIn: row?.taken_in ?? 0, putAside: row?.put_aside ?? 0 },
        ...{ trouble: row?.trouble ?? null, lookedAt: row?.looked_at ?? null },
      };
    }),
  };
}
