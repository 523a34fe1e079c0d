import { chmodSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { z } from 'zod';
import { errorCode, Problem } from '../problem';

/** Who works in a data folder. */
const Owner = z.object({ pid: z.int(), address: z.string(), since: z.int() });
export type Owner = z.infer<typeof Owner>;

const SHOP_LOCK = 'shop.lock';
const WORK_LOCK = 'work.lock';
const OWNER = 'owner.json';

/** Files of a data folder by which it is locked; they are never removed. */
export const LOCKS: readonly string[] = [SHOP_LOCK, WORK_LOCK, OWNER];

/** Processes of a supervisor that died end within this, in milliseconds. */
const LEFTOVER_MS = 8000;

const databaseIn = (data: string, name: string, timeout: number) =>
  new Database(join(data, name), { timeout });

/**
 * Takes a data folder for one supervisor alone. Locks of SQLite's files are the system's: they go with the
 * process that holds them, however it ends.
 * @returns what gives it back
 * @throws Problem that says who has it; nothing in the folder is touched then
 */
export function lockShop(data: string, owner: Owner): () => void {
  mkdirSync(data, { recursive: true });
  chmodSync(data, 0o700);
  const lock = databaseIn(data, SHOP_LOCK, 0);
  const ownerFile = join(data, OWNER);
  try {
    lock.exec('begin exclusive');
  } catch (error) {
    lock.close();
    if (errorCode(error) !== 'SQLITE_BUSY') throw error;
    throw new Problem('conflict', inUse(data, readOwner(ownerFile)));
  }
  // Children of a supervisor that was killed may still be ending.
  const work = databaseIn(data, WORK_LOCK, LEFTOVER_MS);
  try {
    work.exec('begin exclusive; rollback');
  } catch (error) {
    lock.close();
    if (errorCode(error) !== 'SQLITE_BUSY') throw error;
    throw new Problem(
      'conflict',
      `Processes of an earlier start still work in ${data} and do not end. Nothing was touched; end them and start again.`,
    );
  } finally {
    work.close();
  }
  writeFileSync(ownerFile, JSON.stringify(owner), { mode: 0o600 });
  return () => {
    rmSync(ownerFile, { force: true });
    lock.close();
  };
}

/** Says, for as long as this process lives, that it works in a data folder. */
export function workIn(data: string): void {
  const work = databaseIn(data, WORK_LOCK, LEFTOVER_MS);
  work.exec('begin');
  work.prepare('select * from sqlite_master').all();
  kept.push(work);
}

/** What is not referred to is closed. */
const kept: Database.Database[] = [];

/** Who has a data folder, or null where nobody says so. */
function readOwner(file: string): Owner | null {
  try {
    return Owner.parse(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return null;
  }
}

const inUse = (data: string, owner: Owner | null): string =>
  `The data in ${data} is in use: ${
    owner
      ? `process ${owner.pid} serves it at ${owner.address} since ${new Date(owner.since).toLocaleString('en-GB')}`
      : 'another process serves it'
  }. Nothing was touched. Open that page, end it, or name another folder by LONTANO_DATA.`;
