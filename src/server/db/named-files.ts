import type { Knex } from 'knex';

/** What the database names of the files in a data folder. */
export interface NamedFiles {
  /** digests of originals */
  originals: Set<string>;
  /** digests of painted masks that a work, its history or a task names */
  masks: Set<string>;
  /** paths below the data folder of files that tasks made and that are still to be there */
  artifacts: Set<string>;
  /** digests of those files */
  results: Set<string>;
  /** numbers of tasks that are not over */
  open: Set<string>;
}

/** Rows that are read at a time: histories grow long. */
const AT_ONCE = 500;
const DIGEST = /"([0-9a-f]{64})"/g;

/** Where painted masks are named: columns of JSON. */
const NAMING: readonly [table: string, key: string, columns: readonly string[]][] = [
  ['pieces', 'id', ['work']],
  ['changes', 'id', ['work', 'patch', 'inverse']],
  ['tasks', 'rowid', ['payload']],
];

export async function namedFiles(db: Knex): Promise<NamedFiles> {
  const masks = new Set<string>();
  for (const [table, key, columns] of NAMING) {
    for (let last = -1; ;) {
      const rows: Record<string, string | number | null>[] = await db(table)
        .where(db.raw(key), '>', last)
        .orderByRaw(key)
        .limit(AT_ONCE)
        .select([...columns, db.raw(`${key} as place`)]);
      for (const row of rows) {
        for (const column of columns) {
          for (const [, digest] of String(row[column] ?? '').matchAll(DIGEST)) masks.add(digest!);
        }
      }
      if (rows.length < AT_ONCE) break;
      last = Number(rows.at(-1)!.place);
    }
  }
  const originals: { digest: string }[] = await db('originals').select('digest');
  const artifacts: { path: string; digest: string | null }[] = await db('artifacts')
    .whereNull('gone_at')
    .select('path', 'digest');
  const open: { id: string }[] = await db('tasks')
    .whereIn('state', ['queued', 'running'])
    .select('id');
  return {
    open: new Set(open.map(({ id }) => id)),
    originals: new Set(originals.map(({ digest }) => digest)),
    masks,
    results: new Set(artifacts.flatMap(({ digest }) => (digest ? [digest] : []))),
    artifacts: new Set(artifacts.map(({ path }) => path)),
  };
}
