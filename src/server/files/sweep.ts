import { readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, join, sep } from 'node:path';
import type { Knex } from 'knex';
import { config } from '../config';
import { namedFiles, type NamedFiles } from '../db/named-files';
import { partOf, store } from './store';

/** Folders of a data folder that hold nothing but files of ours. */
export const FOLDERS = [
  'originals',
  'decoded',
  'thumbnails',
  'masks',
  'results',
  'uploads',
] as const;

/** Whether a file is half of something: written beside its place, and renamed once it is whole. */
const isPart = (path: string): boolean => path.includes('.part');

/**
 * Removes what processes that were killed left: uploads that never arrived, parts of anything, and what was made for
 * a record that was never written. Only for when nothing else is at work in the data folder. What was painted
 * stays: a page that is open may still send the change that names it.
 * @returns how many files were removed
 */
export async function sweepLeftovers(db: Knex): Promise<number> {
  const left = (await unnamedFiles(db)).filter(
    (path) => isPart(path) || !path.startsWith(`masks${sep}`),
  );
  await Promise.all(left.map(remove));
  return left.length;
}

/** How long a file may lie there before something names it: what is made just now is named a little later. */
export const GRACE_MS = 24 * 3_600_000;

/** Half of something is written on all the time, or nobody writes on it. */
const PART_GRACE_MS = 15 * 60_000;

/**
 * Removes files that nothing names, as long as they have lain there for a while.
 * @returns their paths below the data folder
 */
export async function sweepUnnamed(db: Knex, grace = GRACE_MS): Promise<string[]> {
  const unnamed = await unnamedFiles(db);
  const old: string[] = [];
  for (const path of unnamed) {
    const found = await stat(store.named(path)).catch(() => null);
    const enough = isPart(path) ? Math.min(grace, PART_GRACE_MS) : grace;
    if (found && Date.now() - found.mtimeMs >= enough) old.push(path);
  }
  await Promise.all(old.map(remove));
  return old;
}

/** Removes files whose records were removed: all that follows from some originals, and some results. */
export async function removeFilesOf(
  db: Knex,
  originals: readonly string[],
  results: readonly string[],
): Promise<void> {
  // The same file may have been taken in again meanwhile.
  const again: string[] = await db('originals').whereIn('digest', originals).pluck('digest');
  const gone = new Set(originals.filter((digest) => !again.includes(digest)));
  const folders = ['originals', 'decoded', 'thumbnails'] as const;
  const files = gone.size > 0 ? (await Promise.all(folders.map(filesIn))).flat() : [];
  const theirs = files.filter((path) => gone.has(basename(path).slice(0, 64)));
  await Promise.all([...theirs, ...results].map(remove));
}

/** Files that nothing names, by their paths below the data folder. */
export async function unnamedFiles(db: Knex): Promise<string[]> {
  // What is made meanwhile is named by then, or not listed yet.
  const files = (await Promise.all(FOLDERS.map(filesIn))).flat();
  const named = await namedFiles(db);
  return files.filter((path) => !isNamed(path, named));
}

/** Whether the database names a file, by its path below the data folder. */
function isNamed(
  path: string,
  { originals, masks, artifacts, results, open }: NamedFiles,
): boolean {
  const [folder] = path.split(sep);
  if (isPart(path)) {
    // What a run left that waits is what it goes on from.
    return folder === 'results' && open.has(basename(path).split('.part')[0]!);
  }
  const digest = basename(path).slice(0, 64);
  if (folder === 'decoded') return originals.has(digest) || results.has(digest);
  if (folder === 'originals' || folder === 'thumbnails') {
    return originals.has(digest);
  }
  return folder === 'masks' ? masks.has(digest) : folder === 'results' && artifacts.has(path);
}

/**
 * Gives a claim what an earlier one of the same run left half written, to go on from; what others left is removed. They
 * have lapsed: one that still writes finds its files gone, and is refused the result.
 */
export async function adoptParts(out: string, claim: string): Promise<void> {
  const folder = dirname(out);
  const begin = partOf(basename(out), '');
  const left = (await readdir(folder)).filter((name) => name.startsWith(begin));
  const journals = left.filter((name) => name.endsWith('.done'));
  const sized = await Promise.all(
    journals.map(async (name) => ({ name, bytes: (await stat(join(folder, name))).size })),
  );
  // The one that came farthest.
  const [best] = sized.sort((a, b) => b.bytes - a.bytes);
  const adopted = best && best.name.slice(0, -'.done'.length);
  for (const name of left) {
    const from = join(folder, name);
    if (adopted && (name === adopted || name.startsWith(`${adopted}.`))) {
      await rename(from, partOf(out, claim) + name.slice(adopted.length));
    } else await rm(from, { force: true });
  }
}

const remove = (path: string): Promise<void> => rm(store.named(path), { force: true });

/** Paths below the data folder of all files in one of its folders. */
export async function filesIn(folder: (typeof FOLDERS)[number]): Promise<string[]> {
  const from = join(config().data, folder);
  const entries = await readdir(from, { recursive: true, withFileTypes: true }).catch(() => []);
  return entries
    .filter((entry) => entry.isFile())
    .map((entry) => store.nameOf(join(entry.parentPath, entry.name)));
}
