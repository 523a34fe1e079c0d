import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { Knex } from 'knex';
import { Findings } from '@/core/inspect/findings';
import { formatBytes } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { Work } from '@/core/recipe/work';
import type { Audit, Discrepancy } from '@/core/shop/audit';
import { patched } from '@/core/shop/change';
import { filesToBeThere } from '../db/artifacts';
import { namedFiles } from '../db/named-files';
import { digestOfFile } from '../files/digest';
import { store } from '../files/store';
import { FOLDERS, filesIn, GRACE_MS, unnamedFiles } from '../files/sweep';

const unpack = promisify(gunzip);

interface Found {
  count: number;
  found: Discrepancy[];
}

/**
 * Compares the database with itself, with the files in the data folder, and with their digests: every original
 * whole, every history unbroken, every result as it was made, nothing half and nothing that no record names.
 * Only reads.
 * @param grace how old a file must be to count as left over, in milliseconds: what is made just now is named later
 */
export async function audit(db: Knex, { grace = GRACE_MS } = {}): Promise<Audit> {
  const started = performance.now();
  const database = await auditDatabase(db);
  const originals = await auditOriginals(db);
  const pictures = await auditPictures(db);
  const masks = await auditMasks(db);
  const results = await auditResults(db);
  const profiles = await auditProfiles(db);
  const files = await auditFiles(db, grace);
  return {
    at: Date.now(),
    seconds: (performance.now() - started) / 1000,
    checked: {
      originals: originals.count,
      pictures: pictures.count,
      changes: pictures.changes,
      masks: masks.count,
      results: results.count,
      files: files.count,
    },
    found: [database, originals, pictures, masks, results, profiles, files].flatMap(
      ({ found }) => found,
    ),
  };
}

/** SQLite's own checks of its file, and of what refers to what. */
async function auditDatabase(db: Knex): Promise<Found> {
  const found: Discrepancy[] = [];
  const say = (words: string) => found.push({ about: 'the database', words });
  const whole: { integrity_check: string }[] = await db.raw('pragma integrity_check');
  for (const { integrity_check: words } of whole) {
    if (words !== 'ok') say(`Its file is damaged: ${words}. Bring back the last backup of it.`);
  }
  const loose: { table: string; parent: string }[] = await db.raw('pragma foreign_key_check');
  for (const { table, parent } of loose) {
    say(`A row of ${table} refers to one of ${parent} that is not there.`);
  }
  const odd = await db('tasks')
    .where({ state: 'done' })
    .whereNotIn('id', db('artifacts').select('task_id'))
    .select('id');
  for (const { id } of odd) say(`Run ${id} is done and has no file on record.`);
  return { count: 1, found };
}

async function auditOriginals(db: Knex): Promise<Found> {
  const rows: { digest: string; name: string }[] = await db('originals').select('digest', 'name');
  const found: Discrepancy[] = [];
  for (const { digest, name } of rows) {
    const path = store.original(digest);
    const there = await digestOfFile(path).catch(() => null);
    const about = `${name} (${store.nameOf(path)})`;
    if (there === null) {
      found.push({ about, words: 'The original is not there. Take the same file in again.' });
    } else if (there !== digest) {
      found.push({
        about,
        words: 'The original is not the file that was taken in. Take it in again.',
      });
    }
    const pages: { page: number; findings: string }[] = await db('pages')
      .where({ digest })
      .select('page', 'findings');
    if (pages.length === 0) found.push({ about, words: 'Nothing is known of any of its pages.' });
    for (const { page, findings } of pages) {
      if (parses(() => Findings.parse(JSON.parse(findings)))) continue;
      found.push({
        about,
        words: `What was found on page ${page} can't be read; it is looked at again when it is opened.`,
      });
    }
  }
  return { count: rows.length, found };
}

const parses = (parse: () => unknown): boolean => {
  try {
    parse();
    return true;
  } catch {
    return false;
  }
};

/** Profiles that the shop added, also those that were taken off its list: results were made with them. */
async function auditProfiles(db: Knex): Promise<Found> {
  const rows: { digest: string; name: string }[] = await db('profiles').select('digest', 'name');
  const found: Discrepancy[] = [];
  for (const { digest, name } of rows) {
    const path = store.profile(digest);
    if ((await digestOfFile(path).catch(() => null)) === digest) continue;
    const words = 'The colour profile is not there as it was added. Add it again.';
    found.push({ about: `${name} (${store.nameOf(path)})`, words });
  }
  return { count: rows.length, found };
}

/** Every picture's history, followed from its beginning. */
async function auditPictures(db: Knex): Promise<Found & { changes: number }> {
  const pieces = await db('pieces')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .select('pieces.*', 'jobs.number');
  const found: Discrepancy[] = [];
  let changes = 0;
  for (const piece of pieces) {
    const rows: Change[] = await db('changes').where({ piece_id: piece.id }).orderBy('id');
    changes += rows.length;
    const words = brokenHistory(piece, rows);
    if (words) found.push({ about: `${piece.number}, ${piece.file_name}`, words });
  }
  return { count: pieces.length, changes, found };
}

interface Change {
  id: number;
  parent: number | null;
  work: string;
  patch: string | null;
  inverse: string | null;
}

/** What is wrong with a picture's history, or null where it leads to where the picture stands. */
function brokenHistory(
  piece: { current: number; tip: number; work: string },
  rows: readonly Change[],
): string | null {
  const works = new Map<number, Work>();
  for (const { id, parent, work, patch, inverse } of rows) {
    const before = parent === null ? null : works.get(parent);
    if (before === undefined) return `Change ${id} follows one that is not there.`;
    try {
      if (patch === null) works.set(id, Work.parse(JSON.parse(work)));
      else if (before === null) return `Change ${id} has nothing that it changes.`;
      else {
        const after = Work.parse(patched(before, JSON.parse(patch)));
        works.set(id, after);
        const back = Work.parse(patched(after, JSON.parse(inverse ?? 'null')));
        if (canonicalJson(back) !== canonicalJson(before)) {
          return `Change ${id} can't be taken back to what was before it.`;
        }
      }
    } catch {
      return `Change ${id} can't be read or applied.`;
    }
  }
  const stands = works.get(piece.current);
  if (!stands || !works.has(piece.tip)) return 'It stands at a change that is not there.';
  if (!parses(() => Work.parse(JSON.parse(piece.work)))) return "Its work can't be read.";
  return canonicalJson(stands) === canonicalJson(Work.parse(JSON.parse(piece.work)))
    ? null
    : 'It does not stand where its changes lead.';
}

async function auditMasks(db: Knex): Promise<Found> {
  const { masks, originals } = await namedFiles(db);
  const kept = new Map((await filesIn('masks')).map((path) => [basename(path).slice(0, 64), path]));
  const found: Discrepancy[] = [];
  let count = 0;
  for (const digest of masks) {
    const path = kept.get(digest);
    // Works name originals and models by digests as well.
    if (!path) continue;
    count++;
    const bytes = await readFile(store.named(path))
      .then((packed) => unpack(packed))
      .catch(() => null);
    if (bytes && createHash('sha256').update(bytes).digest('hex') === digest) continue;
    found.push({ about: path, words: 'What was painted on a zone is damaged. Paint it again.' });
  }
  for (const digest of await paintedMasks(db)) {
    if (kept.has(digest) || originals.has(digest)) continue;
    found.push({
      about: digest,
      words: 'What was painted on a zone is not there. Paint it again.',
    });
  }
  return { count, found };
}

/** Digests of the masks that works name as they stand. */
async function paintedMasks(db: Knex): Promise<Set<string>> {
  const masks = new Set<string>();
  const works: { work: string }[] = await db('pieces').select('work');
  for (const { work } of works) {
    const parsed = Work.safeParse(JSON.parse(work));
    for (const { painted } of parsed.data?.zones ?? []) if (painted) masks.add(painted.digest);
  }
  return masks;
}

async function auditResults(db: Knex): Promise<Found> {
  const files = await filesToBeThere(db);
  const found: Discrepancy[] = [];
  const say = (about: string, words: string) => {
    found.push({ about, words: `${words} Run the trial again; it gives the same bytes.` });
  };
  for (const { path, bytes, digest } of files) {
    const there = await stat(store.named(path)).catch(() => null);
    if (!there) say(path, 'The file of a run is not there.');
    else if (there.size !== bytes) {
      say(
        path,
        `The file of a run has ${formatBytes(there.size)}, and had ${formatBytes(bytes)} when it was made.`,
      );
    } else if (digest && (await digestOfFile(store.named(path))) !== digest) {
      say(path, 'The file of a run is not as it was made.');
    }
  }
  return { count: files.length, found };
}

async function auditFiles(db: Knex, grace: number): Promise<Found> {
  const all = await Promise.all(FOLDERS.map(filesIn));
  const found: Discrepancy[] = [];
  for (const path of await unnamedFiles(db)) {
    const there = await stat(store.named(path)).catch(() => null);
    if (!there || Date.now() - there.mtimeMs < grace) continue;
    found.push({
      about: path,
      words: `No record names this file (${formatBytes(there.size)}). It is cleared away at the next start or within a day.`,
    });
  }
  return { count: all.flat().length, found };
}
