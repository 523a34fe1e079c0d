import { readdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { config } from '../config';
import { store } from './store';

/**
 * Removes what processes that were killed left half written: uploads that never arrived, and parts
 * of results and decoded pictures. Only for when nothing else is at work in the data folder.
 * @returns how many files were removed
 */
export async function sweepLeftovers(): Promise<number> {
  const uploads = await filesBelow(store.uploads());
  const { data } = config();
  const made = await Promise.all(
    ['results', 'decoded', 'thumbnails'].map((kind) => filesBelow(join(data, kind))),
  );
  const parts = made.flat().filter((path) => path.includes('.part'));
  await Promise.all([...uploads, ...parts].map((path) => rm(path, { force: true })));
  return uploads.length + parts.length;
}

/**
 * Removes what earlier claims of a run left half written. They have lapsed: one that still writes finds its
 * files gone, and is refused the result.
 */
export async function sweepClaims(out: string): Promise<void> {
  const folder = dirname(out);
  const parts = (await readdir(folder)).filter((name) => name.startsWith(`${basename(out)}.part`));
  await Promise.all(parts.map((name) => rm(join(folder, name), { force: true })));
}

async function filesBelow(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
  return entries
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name));
}
