import { fork } from 'node:child_process';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { format } from 'date-fns';
import type { Knex } from 'knex';
import { formatBytes } from '@/core/measure/format';
import type { BackupArchive, BackupFolder, BackupRequest, Backups } from '@/core/shop/backups';
import {
  beginBackupWork,
  finishBackup,
  listBackupWorks,
  silentBackups,
  type BackupRow,
} from '../db/backups';
import { childEnvironment, entryOf } from '../entry';
import { readFolders, type Folders } from '../folders/folders';
import { Problem } from '../problem';

/** Folders of backups with their archives, and what was done in them last. */
export async function backupsOf(db: Knex): Promise<Backups> {
  await concludeSilent(db);
  const { backups } = await readFolders();
  return {
    folders: await Promise.all(backups.map(folderOf)),
    works: await listBackupWorks(db),
  };
}

async function folderOf({ name, path }: Folders['backups'][number]): Promise<BackupFolder> {
  try {
    return { name, archives: await archivesIn(path), trouble: null };
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    // It is made with the first archive.
    if (code === 'ENOENT') return { name, archives: [], trouble: null };
    return { name, archives: [], trouble: `The folder can't be read (${code}).` };
  }
}

/** Archives that lie in a folder itself, newest first; links are none. */
async function archivesIn(path: string): Promise<BackupArchive[]> {
  const names = (await readdir(path, { withFileTypes: true }))
    .filter((entry) => entry.isFile() && /\.zip$/i.test(entry.name))
    .map(({ name }) => name);
  const found = await Promise.all(
    names.map(async (file): Promise<BackupArchive[]> => {
      const about = await stat(join(path, file)).catch(() => null);
      return about ? [{ file, bytes: about.size, at: about.mtimeMs }] : [];
    }),
  );
  return found.flat().sort((a, b) => b.at - a.at);
}

/** The path of a folder of backups. @throws Problem where the configuration names none so */
export async function backupFolder(name: string): Promise<string> {
  const { backups } = await readFolders();
  const folder = backups.find((one) => one.name === name);
  if (folder) return folder.path;
  throw new Problem(
    'missing',
    `The server's configuration names no folder of backups “${name}” any more.`,
  );
}

/**
 * Begins to write an archive, or to compare one, in a process of its own.
 * @throws Problem where one goes on already, or what is asked for is not there
 */
export async function beginBackup(db: Knex, request: BackupRequest): Promise<void> {
  await concludeSilent(db);
  const path = await backupFolder(request.folder);
  const work =
    request.kind === 'write'
      ? {
          file: `lontano-${format(Date.now(), 'yyyy-MM-dd-HHmmss')}.zip`,
          allResults: request.allResults,
        }
      : { file: await fileIn(path, request.file), allResults: false };
  const { kind, folder } = request;
  const id = await beginBackupWork(db, { kind, folder, ...work });
  const child = fork(entryOf('server/backup/backup-process'), [String(id)], {
    env: childEnvironment(),
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const { file } = work;
  const ended = () =>
    conclude(db, { id, kind, folder, file }).catch((error: unknown) => console.error(error));
  child.on('error', () => void ended());
  child.on('exit', (code) => code !== 0 && void ended());
  child.unref();
  child.channel?.unref();
}

async function concludeSilent(db: Knex): Promise<void> {
  for (const work of await silentBackups(db)) await conclude(db, work);
}

/** Says what came of work whose process ended without a word. An archive has its name only once it is whole. */
async function conclude(
  db: Knex,
  { id, kind, folder, file }: Pick<BackupRow, 'id' | 'kind' | 'folder' | 'file'>,
): Promise<void> {
  const { backups } = await readFolders();
  const { path } = backups.find(({ name }) => name === folder) ?? {};
  const about = kind === 'write' && path ? await stat(join(path, file)).catch(() => null) : null;
  const words = about
    ? `${formatBytes(about.size)}. It is whole; what wrote it was ended before it could say more.`
    : 'It was ended before it was done, and left nothing. Begin it again.';
  await finishBackup(db, id, about ? 'done' : 'failed', words);
}

/** A name is taken from the folder's own list, never from who asks. */
async function fileIn(path: string, file: string): Promise<string> {
  const archives = await archivesIn(path).catch(() => []);
  if (archives.some((one) => one.file === file)) return file;
  throw new Problem('missing', 'There is no such archive any more.');
}
