import { statfsSync } from 'node:fs';
import { errorCode, isDiskFull, Problem } from '../problem';

/** A disk with fewer bytes free counts as full: the records' own files need more to be opened. */
const LEAST_FREE = 1e6;

/** Why a shop could not be opened, in words for whoever starts it: what happened, what was kept, what to do. */
export function notOpened(error: unknown, data: string, free = freeOn(data)): string {
  if (error instanceof Problem) return error.message;
  const kept = 'The shop was not opened, and nothing in it was changed.';
  if (isDiskFull(error) || (free !== null && free < LEAST_FREE)) {
    return `The disk that holds ${data} is full. ${kept} Free some room, a gigabyte where you can, and start again.`;
  }
  const code = errorCode(error) ?? '';
  if (/^(EACCES|EPERM|EROFS|SQLITE_READONLY|SQLITE_CANTOPEN)/.test(code)) {
    return `${data} can't be written by this user (${code}). ${kept} Give that user the folder, or name another one by LONTANO_DATA, and start again.`;
  }
  if (/^(SQLITE_CORRUPT|SQLITE_NOTADB)/.test(code)) {
    return `The records in ${data} are damaged (${code}). ${kept} Bring lontano.sqlite back from a backup, with its -wal file where there is one; originals and results lie beside it untouched.`;
  }
  const reason = error instanceof Error ? error.message : String(error);
  return `The shop in ${data} could not be opened: ${reason}. ${kept}`;
}

/** Bytes that are free where a folder lies; null where nobody can tell. */
function freeOn(data: string): number | null {
  try {
    const { bavail, bsize } = statfsSync(data);
    return bavail * bsize;
  } catch {
    return null;
  }
}
