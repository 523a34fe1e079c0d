import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { PassThrough, Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import yazl from 'yazl';
import { CORE_VERSION } from '@/core/recipe/recipe';
import { Problem } from '../problem';
import { DATABASE, MANIFEST, type Entry, type Manifest } from './manifest';
import { scratchIn } from './scratch';

/** What an archive holds, and how large it is. */
export interface Backup {
  entries: number;
  bytes: number;
  /** results that stand in it with their recipes alone: by them the same bytes are made again */
  leftOut: number;
}

/** Jobs in these states still have their results to be printed. */
const NEEDED = "('approved', 'sent')";

/**
 * Writes a whole shop into one ZIP with a manifest of digests, while work goes on: its records as they are at one moment,
 * all originals, painted masks, profiles and words, and results that wait to be printed. The archive takes its place once
 * it is whole.
 * @param data the shop's folder
 * @param results which of the results that are there: those that wait to be printed, or all
 * @param told the share that is written, 0–1
 * @param signal aborted, it ends and leaves nothing
 * @throws Problem where something that the records name is not there, or not what it was
 */
export async function writeBackup(
  data: string,
  archive: string,
  {
    results = 'needed' as 'needed' | 'all',
    told = (_: number) => {},
    signal = new AbortController().signal,
  } = {},
): Promise<Backup> {
  const scratch = await scratchIn(dirname(archive), SCRATCH);
  try {
    const snapshot = join(scratch, DATABASE);
    const { names, leftOut } = await snapshotOf(data, snapshot, results);
    const part = join(scratch, basename(archive));
    const entries = await writeArchive(data, snapshot, names, part, { told, signal });
    signal.throwIfAborted();
    const { size: bytes } = await stat(part);
    const file = await open(part, 'r+');
    await file.sync().finally(() => file.close());
    await rename(part, archive);
    return { entries, bytes, leftOut };
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}

/** What an archive is put together in. */
const SCRATCH = '.lontano-backup-';

/** Bytes of files; of one that isn't there none. */
async function bytesOf(paths: readonly string[]): Promise<number> {
  let sum = 0;
  for (const path of paths) sum += (await stat(path).catch(() => null))?.size ?? 0;
  return sum;
}

/** Copies the records as they are at one moment, and says which files they need. */
async function snapshotOf(
  data: string,
  to: string,
  results: 'needed' | 'all',
): Promise<{ names: string[]; leftOut: number }> {
  const live = new Database(join(data, DATABASE), { readonly: true, fileMustExist: true });
  try {
    // One reading transaction: whoever writes meanwhile is waited for by nobody.
    live.prepare('vacuum into ?').run(to);
  } finally {
    live.close();
  }
  const copy = new Database(to);
  try {
    copy.pragma('journal_mode = DELETE');
    const list = (query: string): string[] => copy.prepare(query).pluck().all() as string[];
    const originals = list('select digest from originals').map(
      (digest) => `originals/${digest.slice(0, 2)}/${digest}`,
    );
    const there = `from artifacts where gone_at is null`;
    const kept =
      results === 'all'
        ? list(`select path ${there}`)
        : list(
            `select path ${there} and task_id in (select tasks.id from tasks join pieces on pieces.id = piece_id
               join jobs on jobs.id = job_id where jobs.state in ${NEEDED})`,
          );
    // A result that isn't in the archive is made again by its recipe.
    const gone = copy.prepare(
      `update artifacts set gone_at = ? where gone_at is null and path not in (select value from json_each(?))`,
    );
    const { changes } = gone.run(Date.now(), JSON.stringify(kept));
    const others = ['masks', 'profiles'].map((kind) => filesBelow(data, kind));
    const names = [...originals, ...(await Promise.all(others)).flat(), ...kept];
    const words = await stat(join(data, 'words.json')).catch(() => null);
    return { names: words ? [...names, 'words.json'] : names, leftOut: changes };
  } finally {
    copy.close();
  }
}

/** Whole files of a folder by their names in the data folder; none where there is no such folder. */
async function filesBelow(data: string, kind: string): Promise<string[]> {
  const found = await readdir(join(data, kind), { recursive: true, withFileTypes: true }).catch(
    () => [],
  );
  return found
    .filter((entry) => entry.isFile() && /\.(gz|icc)$/.test(entry.name))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name).slice(data.length + 1))
    .sort();
}

async function writeArchive(
  data: string,
  snapshot: string,
  names: readonly string[],
  to: string,
  { told, signal }: { told: (share: number) => void; signal: AbortSignal },
): Promise<number> {
  const zip = new yazl.ZipFile();
  const written = pipeline(zip.outputStream, createWriteStream(to, { mode: 0o600 }), { signal });
  const broken = new Promise<never>((_, reject) => zip.on('error', reject));
  broken.catch(() => {});
  written.catch(() => {});
  const entries: Entry[] = [];
  const total = await bytesOf([snapshot, ...names.map((name) => join(data, name))]);
  let done = 0;
  const passed = (bytes: number) => told(Math.min(1, (done += bytes) / total));
  const add = (name: string, path: string, compress: boolean) =>
    zip.addReadStreamLazy(name, { compress }, (give) => {
      const counted = counting(passed, (bytes, digest) => {
        entries.push({ name, bytes, digest });
        // Originals are named by their digests.
        if (name.startsWith('originals/') && !name.endsWith(digest)) {
          counted.destroy(
            new Problem(
              'work',
              `The original ${name} is damaged. Put it back from an earlier backup.`,
            ),
          );
        }
      });
      // It hears of no trouble of what it is given.
      counted.on('error', (error) => zip.emit('error', error));
      const source = createReadStream(path);
      source.on('error', () =>
        counted.destroy(
          new Problem('work', `${name}, which the records name, is not there. Let an audit look.`),
        ),
      );
      give(null, source.pipe(counted));
    });
  add(DATABASE, snapshot, true);
  for (const name of names) add(name, join(data, name), false);
  zip.addReadStreamLazy(MANIFEST, { compress: true }, (give) => {
    const manifest: Manifest = { form: 1, at: Date.now(), core: CORE_VERSION, entries };
    give(null, Readable.from([JSON.stringify(manifest)]).pipe(new PassThrough()));
  });
  zip.end();
  await Promise.race([written, broken]);
  return entries.length;
}

/** Lets bytes through and tells of each part, and at their end how many they were, and their digest. */
function counting(
  passed: (bytes: number) => void,
  done: (bytes: number, digest: string) => void,
): Transform {
  const hash = createHash('sha256');
  let bytes = 0;
  return new Transform({
    transform(chunk: Buffer, _, next) {
      hash.update(chunk);
      bytes += chunk.length;
      passed(chunk.length);
      next(null, chunk);
    },
    flush(next) {
      done(bytes, hash.digest('hex'));
      next();
    },
  });
}
