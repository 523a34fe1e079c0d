import { mkdir, rm } from 'node:fs/promises';
import { setPriority } from 'node:os';
import { join } from 'node:path';
import { format } from 'date-fns';
import { formatBytes } from '@/core/measure/format';
import { config } from '../config';
import {
  beatBackup,
  BEAT_MS,
  finishBackup,
  readBackupRow,
  wasCancelled,
  type BackupRow,
} from '../db/backups';
import { database } from '../db/connection';
import { inWords, Problem } from '../problem';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { checkBackup } from './restore-backup';
import { backupFolder } from './works';
import { writeBackup } from './write-backup';

interface How {
  told: (share: number) => void;
  signal: AbortSignal;
}

/** Does what a row asks for, and says in a sentence what came of it. */
async function doBackup({ kind, folder, file, all_results }: BackupRow, how: How) {
  const path = await backupFolder(folder);
  const archive = join(path, file);
  if (kind === 'check') {
    const { entries, bytes, at } = await checkBackup(archive, how);
    return `Whole: ${entries} files, ${formatBytes(bytes)}, as the shop was on ${format(at, 'd MMM yyyy, HH:mm')}.`;
  }
  await mkdir(path, { recursive: true, mode: 0o700 });
  const results = all_results ? 'all' : 'needed';
  const { entries, bytes, leftOut } = await writeBackup(config().data, archive, {
    results,
    ...how,
  });
  const others =
    leftOut > 0 ? ` ${leftOut} results are in it by their recipes, which make them again.` : '';
  return `${entries} files, ${formatBytes(bytes)}.${others}`;
}

setPriority(15);
startWatch({ grace: 0 });
workIn(config().data);
const db = await database();
const id = Number(process.argv[2]);
const row = await readBackupRow(db, id);
if (row) {
  const stop = new AbortController();
  let progress = 0;
  const beating = setInterval(() => {
    beatBackup(db, id, progress).then(
      (wanted) => wanted || stop.abort(),
      (error: unknown) => console.error(error),
    );
  }, BEAT_MS);
  try {
    const told = (share: number) => (progress = share);
    const words = await doBackup(row, { told, signal: stop.signal });
    const kept = await finishBackup(db, id, 'done', words);
    // It was cancelled when the archive had its name already.
    if (kept === 0 && row.kind === 'write' && (await wasCancelled(db, id))) {
      await rm(join(await backupFolder(row.folder), row.file), { force: true });
    }
  } catch (error) {
    if (!stop.signal.aborted && !(error instanceof Problem)) console.error(error);
    await finishBackup(db, id, 'failed', inWords(error));
  } finally {
    clearInterval(beating);
  }
}
await db.destroy();
process.exit(0);
