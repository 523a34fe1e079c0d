import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';

/** How old a folder is that nobody works in any more, in milliseconds. */
const LEFT_MS = 600_000;

/** A new folder to put something together in. What an earlier one of its sort left that was ended in its midst is removed. */
export async function scratchIn(folder: string, prefix: string): Promise<string> {
  const left = (await readdir(folder)).filter((name) => name.startsWith(prefix));
  for (const name of left) {
    const path = join(folder, name);
    const files = await readdir(path, { recursive: true }).catch(() => []);
    const times = await Promise.all([path, ...files.map((file) => join(path, file))].map(changed));
    if (Date.now() - Math.max(...times) > LEFT_MS) await rm(path, { recursive: true, force: true });
  }
  return mkdtemp(join(folder, prefix));
}

const changed = (path: string): Promise<number> =>
  stat(path).then(
    ({ mtimeMs }) => mtimeMs,
    () => 0,
  );
