import { rm, stat, utimes } from 'node:fs/promises';
import type { Knex } from 'knex';
import { limitsOf } from '../limits';
import { markGone, resultsThatCanGo } from '../db/artifacts';
import { store } from './store';
import { filesIn } from './sweep';

/** What can be made again, and may go to make room. */
interface Spare {
  /** below the data folder */
  path: string;
  bytes: number;
  /** when it was last used, in milliseconds since 1970 */
  used: number;
  /** whether nobody is likely to miss it */
  unneeded: boolean;
  /** the task that made it; decoded pixels have none */
  task: string | null;
}

/** Decoded pixels that nobody looked at for so long are not needed. */
const UNUSED_MS = 24 * 3_600_000;
/** What was used just now is never removed: somebody is reading it. */
const IN_USE_MS = 10 * 60_000;
/** Uses are noted this often at most. */
const NOTED_MS = 5 * 60_000;

const noted = new Map<string, number>();

/** Notes that a file that can be made again is used, so that it isn't among the first to go. */
export async function noteUse(path: string): Promise<void> {
  const now = Date.now();
  if (Math.abs(now - (noted.get(path) ?? 0)) < NOTED_MS) return;
  noted.set(path, now);
  if (noted.size > 5000) noted.delete(noted.keys().next().value!);
  await utimes(path, now / 1000, now / 1000).catch(() => {});
}

/** What was removed to make room. */
export interface Freed {
  /** bytes that can be made again and are still there */
  kept: number;
  /** paths below the data folder */
  removed: string[];
}

/**
 * Keeps what can be made again within its bound: decoded and halved pixels, and results. What is needed least and
 * was used longest ago goes first; originals, painted masks, and results that are approved and not printed yet
 * never do.
 */
export async function makeRoom(db: Knex, most?: number): Promise<Freed> {
  const limit = most ?? (await limitsOf(db)).keptBytes;
  const spare = await spareFiles(db);
  let kept = spare.reduce((sum, { bytes }) => sum + bytes, 0);
  const removed: string[] = [];
  const inOrder = spare.sort((a, b) => Number(b.unneeded) - Number(a.unneeded) || a.used - b.used);
  for (const { path, bytes, used, task } of inOrder) {
    if (kept <= limit) break;
    if (Date.now() - used < IN_USE_MS && used <= Date.now()) continue;
    // The record first: a file without one is swept, a record without its file would be a lie.
    if (task && !(await markGone(db, task, path))) continue;
    await rm(store.named(path), { force: true });
    kept -= bytes;
    removed.push(path);
  }
  return { kept, removed };
}

/** Bytes of what can be made again. */
export const spareBytes = async (db: Knex): Promise<number> =>
  (await spareFiles(db)).reduce((sum, { bytes }) => sum + bytes, 0);

async function spareFiles(db: Knex): Promise<Spare[]> {
  const decoded = await Promise.all(
    (await filesIn('decoded')).map(async (path): Promise<Spare[]> => {
      const found = await stat(store.named(path)).catch(() => null);
      if (!found) return [];
      const used = found.mtimeMs;
      return [
        { path, bytes: found.size, used, unneeded: Date.now() - used > UNUSED_MS, task: null },
      ];
    }),
  );
  const results = (await resultsThatCanGo(db)).map(
    ({ taskId, path, bytes, finishedAt, over }): Spare => ({
      ...{ path, bytes, task: taskId, used: finishedAt, unneeded: over },
    }),
  );
  return [...decoded.flat(), ...results];
}
