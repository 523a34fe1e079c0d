import { mkdir } from 'node:fs/promises';
import { setPriority } from 'node:os';
import type { Knex } from 'knex';
import { config } from '../config';
import { database } from '../db/connection';
import { readFolders, type Drop } from '../folders/folders';
import { errorCode, inWords, Problem } from '../problem';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { Settled } from './settled';
import { takeFrom } from './take-from';

/** How often watched folders are looked at, and how long a file has to stand still there. */
const LOOK_MS = 1000;
const STILL_MS = 2500;

/** Looks at a watched folder once, and writes down how that went. */
export async function lookAt(db: Knex, drop: Drop, settled: Settled, now: number): Promise<void> {
  await db('drops').insert({ name: drop.name }).onConflict().ignore();
  const trouble = await (async () => {
    await mkdir(drop.path, { recursive: true });
    await takeFrom(db, drop, await settled.look(now));
    return null;
  })().catch((error: unknown) => {
    if (!(error instanceof Problem)) console.error(error);
    const code = errorCode(error);
    return code ? `The folder can't be read or written (${code}).` : inWords(error);
  });
  await db('drops').where({ name: drop.name }).update({ trouble, looked_at: Date.now() });
}

if (process.argv[1] === import.meta.filename) {
  // People who look go first.
  setPriority(10);
  startWatch({ grace: 3000 });
  workIn(config().data);
  const leave = () => process.exit(0);
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, leave);
  process.on('disconnect', leave);
  const db = await database();
  const watched = new Map<string, Settled>();
  for (;;) {
    // Folders are named anew without a restart.
    const { drops } = await readFolders().catch(() => ({ drops: [] }));
    for (const drop of drops) {
      const key = `${drop.name} ${drop.path}`;
      const settled = watched.get(key) ?? new Settled(drop.path, STILL_MS);
      watched.set(key, settled);
      await lookAt(db, drop, settled, performance.now()).catch((error: unknown) =>
        console.error(error),
      );
    }
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}
