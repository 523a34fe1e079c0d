import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { Transform, Writable, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import yauzl from 'yauzl';
import { MIGRATIONS } from '../db/connection';
import { Problem } from '../problem';
import { DATABASE, Manifest, MANIFEST, type Entry } from './manifest';
import { scratchIn } from './scratch';

/** A longer list is none. */
const MANIFEST_BYTES = 1 << 30;
/** Room on the disk that stays free. */
const SPARE_BYTES = 256e6;
/** Of a ZIP entry's mode: what sort of file it is, and a link. */
const SORT = 0o170000;
const LINK = 0o120000;

/** What was restored. */
export interface Restored {
  entries: number;
  bytes: number;
  /** when the archive was made */
  at: number;
}

/**
 * Restores a shop from its archive into an empty folder. Everything is read and compared with the archive's own list
 * before the folder takes its place; what is not as it says leaves nothing behind.
 * @param told the share that is read, 0–1
 * @throws Problem where the archive is damaged, or holds what no shop does
 */
export async function restoreBackup(
  archive: string,
  folder: string,
  told: (share: number) => void = () => {},
): Promise<Restored> {
  const there = await readdir(folder).catch(() => [] as string[]);
  if (there.length > 0) {
    throw new Problem(
      'usage',
      `${folder} is not empty. Name a new folder: nothing is written over.`,
    );
  }
  await mkdir(dirname(folder), { recursive: true });
  const part = await scratchIn(dirname(folder), '.lontano-restore-');
  try {
    const restored = await goThrough(archive, { part, keeping: () => true, told });
    await rm(folder, { recursive: true, force: true });
    await rename(part, folder);
    return restored;
  } finally {
    await rm(part, { recursive: true, force: true });
  }
}

/**
 * Compares an archive with its own list as restoring it would, without keeping anything.
 * @throws Problem where it is damaged, or holds what no shop does; the signal's reason where that is aborted
 */
export async function checkBackup(
  archive: string,
  how: { told: (share: number) => void; signal: AbortSignal },
): Promise<Restored> {
  const part = await scratchIn(tmpdir(), 'lontano-check-');
  try {
    return await goThrough(archive, { part, keeping: (name) => name === DATABASE, ...how });
  } finally {
    await rm(part, { recursive: true, force: true });
  }
}

interface Going {
  /** where files are written that are kept */
  part: string;
  keeping: (name: string) => boolean;
  told: (share: number) => void;
  signal?: AbortSignal;
}

/** Reads all of an archive and compares it with its list; files that are kept are written, and the records made ready. */
async function goThrough(archive: string, going: Going): Promise<Restored> {
  const { part, keeping, told, signal } = going;
  const zip = await openArchive(archive);
  try {
    const listed = await entriesOf(zip);
    const { entries, at } = await readManifest(zip, listed.get(MANIFEST));
    listed.delete(MANIFEST);
    refuseOthers(listed, entries);
    const kept = entries.filter(({ name }) => keeping(name));
    await refuseWithoutRoom(bytesOf(kept), part);
    const bytes = bytesOf(entries);
    let done = 0;
    for (const entry of entries) {
      signal?.throwIfAborted();
      await extract(zip, listed.get(entry.name)!, entry, keeping(entry.name) ? part : null);
      told((done += entry.bytes) / bytes);
    }
    makeReady(join(part, DATABASE));
    return { entries: entries.length, bytes, at };
  } finally {
    zip.close();
  }
}

const bytesOf = (entries: readonly Entry[]): number =>
  entries.reduce((sum, { bytes }) => sum + bytes, 0);

/** Since when records say of archives that they are written. */
const WITH_BACKUPS = '0025-backups';

const damaged = (what: string): Problem =>
  new Problem('input', `The archive is damaged: ${what}. Nothing of it was used.`);
const foreign = (what: string): Problem =>
  new Problem('input', `The archive is none of a shop: ${what}. Nothing of it was used.`);

const openArchive = (archive: string): Promise<yauzl.ZipFile> =>
  yauzl
    .openPromise(archive, { lazyEntries: true, autoClose: false, validateEntrySizes: true })
    .catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'ENOENT'
        ? new Problem('input', `There is no file ${archive}.`)
        : damaged('it is no ZIP that can be read');
    });

/** The archive's entries by name. */
async function entriesOf(zip: yauzl.ZipFile): Promise<Map<string, yauzl.Entry>> {
  const found = new Map<string, yauzl.Entry>();
  try {
    for await (const entry of zip.eachEntry()) {
      const { fileName } = entry;
      if (((entry.externalFileAttributes >>> 16) & SORT) === LINK) {
        throw foreign(`${fileName} is a link`);
      }
      if (found.has(fileName)) throw foreign(`${fileName} is in it twice`);
      found.set(fileName, entry);
    }
  } catch (error) {
    // Names that lead out of a folder are refused by the reader itself.
    throw error instanceof Problem ? error : foreign((error as Error).message);
  }
  return found;
}

async function readManifest(zip: yauzl.ZipFile, entry: yauzl.Entry | undefined): Promise<Manifest> {
  if (!entry) throw foreign('it has no manifest');
  if (entry.uncompressedSize > MANIFEST_BYTES) throw foreign('its manifest is too large');
  const parts: Buffer[] = [];
  try {
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
  } catch {
    throw damaged('its manifest can’t be read');
  }
  let value: unknown;
  try {
    value = JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch {
    throw damaged('its manifest is no JSON');
  }
  const read = Manifest.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const [, at] = issue!.path;
  const name = nameAt(value, at);
  throw foreign(`${name ?? issue!.path.join('.')} ${issue!.message}`);
}

/** The name of an entry of a list that can't be read, for saying which it is. */
function nameAt(value: unknown, at: unknown): string | null {
  const { entries } = (value ?? {}) as { entries?: { name?: unknown }[] };
  const name = typeof at === 'number' ? entries?.[at]?.name : null;
  return typeof name === 'string' ? name.slice(0, 120) : null;
}

/** Archive and manifest hold the same files, of the same sizes. */
function refuseOthers(
  listed: ReadonlyMap<string, yauzl.Entry>,
  entries: Manifest['entries'],
): void {
  const named = new Set(entries.map(({ name }) => name));
  if (named.size < entries.length) throw foreign('its manifest names a file twice');
  if (!named.has(DATABASE)) throw foreign('it has no records');
  for (const { name, bytes } of entries) {
    const entry = listed.get(name);
    if (!entry) throw damaged(`${name} is missing`);
    if (entry.uncompressedSize !== bytes) throw damaged(`${name} has another size than it should`);
  }
  const other = [...listed.keys()].find((name) => !named.has(name));
  if (other) throw foreign(`${other.slice(0, 120)} is not in its manifest`);
}

async function refuseWithoutRoom(needed: number, folder: string): Promise<void> {
  const { bavail, bsize } = await statfs(folder);
  if (needed + SPARE_BYTES > bavail * bsize) {
    throw new Problem(
      'full',
      `Its files take ${Math.ceil(needed / 1e6)} MB, and the disk has ${Math.floor((bavail * bsize) / 1e6)}.`,
    );
  }
}

/** Takes everything and keeps nothing. */
const nowhere = () => new Writable({ write: (_chunk, _, next) => next() });

async function extract(
  zip: yauzl.ZipFile,
  entry: yauzl.Entry,
  { name, bytes, digest }: Entry,
  part: string | null,
): Promise<void> {
  const to = part && join(part, name);
  if (to) await mkdir(dirname(to), { recursive: true, mode: 0o700 });
  const hash = createHash('sha256');
  let read = 0;
  const checked = new Transform({
    transform(chunk: Buffer, _, next) {
      read += chunk.length;
      hash.update(chunk);
      next(read > bytes ? damaged(`${name} is longer than it should be`) : null, chunk);
    },
  });
  try {
    const from = (await zip.openReadStreamPromise(entry)) as Readable;
    await pipeline(from, checked, to ? createWriteStream(to, { mode: 0o600 }) : nowhere());
  } catch (error) {
    if (error instanceof Problem || (error as NodeJS.ErrnoException).code === 'ENOSPC') throw error;
    throw damaged(`${name} can't be read`);
  }
  if (hash.digest('hex') !== digest) throw damaged(`${name} is not what it was`);
}

/** Sees that the records are whole and of no later version, and ends what was on its way to devices. */
function makeReady(file: string): void {
  const db = openRecords(file);
  try {
    const [{ integrity_check: whole }] = db.pragma('integrity_check(1)') as [
      { integrity_check: string },
    ];
    if (whole !== 'ok') throw damaged('its records are not whole');
    const known = new Set(MIGRATIONS);
    const had = db.prepare('select name from knex_migrations').pluck().all() as string[];
    const later = had.find((name) => !known.has(name));
    if (later) {
      throw new Problem(
        'input',
        `The archive is of a later version of Lontano (${later}). Restore it with that one.`,
      );
    }
    // Nobody knows what was printed since: nothing is sent again by itself.
    db.prepare(
      `update sendings set state = 'failed', finished_at = ?, words = ? where finished_at is null`,
    ).run(
      Date.now(),
      'The shop was restored from a backup: look at the device whether it was printed, and send it again if not.',
    );
    // In its own records an archive is still being written. Earlier shops had no such table.
    if (had.includes(WITH_BACKUPS)) {
      const done = db.prepare(
        `update backups set state = 'done', progress = 1, finished_at = ?, words = ? where state = 'running'`,
      );
      done.run(Date.now(), 'The shop was restored from this archive.');
    }
  } catch (error) {
    throw error instanceof Problem ? error : damaged('its records can’t be read');
  } finally {
    db.close();
  }
}

function openRecords(file: string): Database.Database {
  try {
    return new Database(file, { fileMustExist: true });
  } catch {
    throw damaged('its records can’t be read');
  }
}
