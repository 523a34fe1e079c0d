import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import knex, { type Knex } from 'knex';
import { config } from '../config';
import { Problem } from '../problem';
import { shop } from './migrations/0001-shop';
import { lists } from './migrations/0003-lists';
import { pages } from './migrations/0002-pages';
import { queue } from './migrations/0004-queue';
import { patches } from './migrations/0005-patches';
import { tasks } from './migrations/0006-tasks';
import { board } from './migrations/0007-board';
import { taskNews } from './migrations/0008-task-news';
import { room } from './migrations/0009-room';
import { audits } from './migrations/0010-audits';
import { rounds } from './migrations/0011-rounds';
import { measured } from './migrations/0012-measured';
import { comparing } from './migrations/0013-comparing';
import { takenOut } from './migrations/0014-taken-out';
import { settings } from './migrations/0015-settings';
import { profiles } from './migrations/0016-profiles';
import { events } from './migrations/0017-events';
import { devices } from './migrations/0018-devices';
import { authors } from './migrations/0019-authors';
import { house } from './migrations/0020-house';
import { notes } from './migrations/0021-notes';
import { batches } from './migrations/0022-batches';
import { drops } from './migrations/0023-drops';
import { settingChanges } from './migrations/0024-setting-changes';
import { backups } from './migrations/0025-backups';
import { askedOnce } from './migrations/0026-asked-once';
import { addStartSet } from './house';

/** Migrations in their order. They only go forward: a shop's data survives every update. */
const migrations = [
  shop,
  pages,
  lists,
  queue,
  patches,
  tasks,
  board,
  taskNews,
  room,
  audits,
  rounds,
  measured,
  comparing,
  takenOut,
  settings,
  profiles,
  events,
  devices,
  authors,
  house,
  notes,
  batches,
  drops,
  settingChanges,
  backups,
  askedOnce,
];

/** Names of all migrations that this version knows. */
export const MIGRATIONS: readonly string[] = migrations.map(({ name }) => name);

/**
 * Opens a database file, brings it up to date, and makes it fit for two processes.
 * @param options.migrate false leaves it as it is
 * @throws Problem where it is left as it is, and that is of another version than this code
 */
export async function openDatabase(file: string, { migrate = true } = {}): Promise<Knex> {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  const db = knex({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
    pool: {
      min: 1,
      max: 1,
      afterCreate: (connection: { pragma(text: string): void }, done: () => void) => {
        connection.pragma('journal_mode = WAL');
        connection.pragma('busy_timeout = 5000');
        connection.pragma('foreign_keys = ON');
        done();
      },
    },
  });
  const migrationSource = {
    getMigrations: () => Promise.resolve(migrations),
    getMigrationName: (migration: (typeof migrations)[number]) => migration.name,
    getMigration: (migration: (typeof migrations)[number]) =>
      Promise.resolve({ up: migration.up, down: () => Promise.resolve() }),
  };
  if (migrate) {
    await db.migrate.latest({ migrationSource });
    await addStartSet(db);
  } else if ((await db('knex_migrations').count({ n: '*' }))[0]!.n !== migrations.length) {
    await db.destroy();
    throw new Problem(
      'conflict',
      `The records in ${file} are of another version. Start the shop once with this one.`,
    );
  }
  return db;
}

// Next loads route handlers in separate bundles; they share one connection through the process.
const shared = globalThis as { lontanoDatabase?: Promise<Knex> };

/** This process's connection to the shop's database. */
export function database(): Promise<Knex> {
  shared.lontanoDatabase ??= openDatabase(config().database);
  return shared.lontanoDatabase;
}
