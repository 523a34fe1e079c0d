import type { Knex } from 'knex';
import { BackupWork } from '@/core/shop/backups';
import { Problem } from '../problem';

/** Who does one says so this often; one that nobody has heard of for so long was ended, in milliseconds. */
export const BEAT_MS = 400;
const SILENT_MS = 15_000;
/** How many are remembered. */
const LISTED = 20;

/** What a process is told that does one. */
export interface BackupRow {
  id: number;
  kind: BackupWork['kind'];
  folder: string;
  file: string;
  all_results: number;
}

const toWork = (row: Record<string, unknown>): BackupWork =>
  BackupWork.parse({
    ...{ id: row.id, kind: row.kind, folder: row.folder, file: row.file, state: row.state },
    ...{ progress: row.progress, beganAt: row.began_at, finishedAt: row.finished_at },
    words: row.words,
  });

/** Work that nobody does any more, to be told from its silence; what was said later than now is of a clock that was set back. */
export const silentBackups = (db: Knex): Promise<BackupRow[]> =>
  db('backups')
    .where({ state: 'running' })
    .whereNotBetween('beat_at', [Date.now() - SILENT_MS, Date.now() + SILENT_MS]);

/** What was done last, newest first. */
export const listBackupWorks = async (db: Knex): Promise<BackupWork[]> =>
  (await db('backups').orderBy('id', 'desc').limit(LISTED)).map(toWork);

/** @throws Problem where another one goes on */
export async function beginBackupWork(
  db: Knex,
  work: { kind: BackupWork['kind']; folder: string; file: string; allResults: boolean },
): Promise<number> {
  const { kind, folder, file, allResults } = work;
  return db.transaction(async (trx) => {
    const now = Date.now();
    const [{ id }] = await trx('backups')
      .insert({
        ...{ kind, folder, file, all_results: allResults },
        ...{ state: 'running', began_at: now, beat_at: now },
      })
      .returning('id');
    if (await trx('backups').where({ state: 'running' }).whereNot({ id }).first('id')) {
      throw new Problem('conflict', 'Another backup goes on. Wait for its end, or cancel it.');
    }
    return Number(id);
  });
}

export const readBackupRow = (db: Knex, id: number): Promise<BackupRow | undefined> =>
  db('backups').where({ id, state: 'running' }).first();

/** Says how far it is. @returns whether it is still wanted */
export const beatBackup = async (db: Knex, id: number, progress: number): Promise<boolean> =>
  (await db('backups').where({ id, state: 'running' }).update({ progress, beat_at: Date.now() })) >
  0;

export const finishBackup = (
  db: Knex,
  id: number,
  state: 'done' | 'failed',
  words: string,
): Promise<number> =>
  db('backups')
    .where({ id, state: 'running' })
    .update({ state, words, finished_at: Date.now(), ...(state === 'done' && { progress: 1 }) });

/** Whether somebody thought better of it. */
export const wasCancelled = async (db: Knex, id: number): Promise<boolean> =>
  (await db('backups').where({ id, state: 'cancelled' }).first('id')) !== undefined;

/** Whoever does it hears of it at its next word. @throws Problem where it is over already */
export async function cancelBackup(db: Knex, id: number): Promise<void> {
  const ended = await db('backups')
    .where({ id, state: 'running' })
    .update({ state: 'cancelled', finished_at: Date.now() });
  if (ended === 0) throw new Problem('missing', 'It is over already.');
}
