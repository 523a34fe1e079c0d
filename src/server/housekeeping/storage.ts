import { readdir, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import type { Knex } from 'knex';
import type { Storage, StorageKind } from '@/core/shop/storage';
import { config } from '../config';
import { resultsThatCanGo } from '../db/artifacts';
import { limitsOf } from '../limits';

/** Folders of a data folder whose files are all of one kind, unless they are half done. */
const FOLDERS: Partial<Record<string, StorageKind>> = {
  originals: 'originals',
  masks: 'painted masks',
  profiles: 'profiles',
  decoded: 'decoded pictures',
  thumbnails: 'thumbnails',
  uploads: 'half done',
};

/** What takes how much of a shop's disk, as its files are now. */
export async function storageOf(db: Knex): Promise<Storage> {
  const { data } = config();
  const { keptBytes } = await limitsOf(db);
  const spare = new Set((await resultsThatCanGo(db)).map(({ path }) => path));
  const sums = new Map<StorageKind, { files: number; bytes: number }>();
  const add = async (kind: StorageKind, path: string) => {
    // It may be gone by now.
    const found = await stat(path).catch(() => null);
    if (!found) return;
    const sum = sums.get(kind) ?? { files: 0, bytes: 0 };
    sums.set(kind, { files: sum.files + 1, bytes: sum.bytes + found.size });
  };
  for (const [folder, kind] of Object.entries(FOLDERS)) {
    for (const path of await below(join(data, folder))) {
      await add(path.includes('.part') ? 'half done' : kind!, path);
    }
  }
  for (const path of await below(join(data, 'results'))) {
    const name = path.slice(data.length + 1);
    const kind = spare.has(name) ? 'results that may go' : 'results that are needed';
    await add(name.includes('.part') ? 'half done' : kind, path);
  }
  for (const ending of ['', '-wal']) await add('records', `${config().database}${ending}`);
  const { bavail, bsize } = await statfs(data);
  return {
    entries: [...sums].map(([kind, sum]) => ({ kind, ...sum })),
    againLimit: keptBytes,
    free: bavail * bsize,
  };
}

async function below(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
  return entries
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));
}
