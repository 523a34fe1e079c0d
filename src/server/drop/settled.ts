import { lstat, readdir } from 'node:fs/promises';
import { join } from 'node:path';

/** A file of a watched folder. */
export interface Found {
  name: string;
  bytes: number;
  /** in milliseconds since 1970 */
  changedAt: number;
  /** neither a link nor anything else that only stands for a file */
  regular: boolean;
}

/** Files of a folder, seen again and again: which of them stand still, so that they are whole. */
export class Settled {
  private readonly seen = new Map<string, { of: string; since: number }>();

  /**
   * @param folder which one
   * @param stillMs how long a file has to stand still
   */
  constructor(
    private readonly folder: string,
    private readonly stillMs: number,
  ) {}

  /**
   * Looks at the folder. Files that somebody's program is about to write, by their names, are none yet.
   * @param now in milliseconds, of a clock that is never set
   * @returns those that stood still for long enough
   */
  async look(now: number): Promise<Found[]> {
    const entries = await readdir(this.folder, { withFileTypes: true });
    const names = entries
      .filter((entry) => !entry.isDirectory() && !UNFINISHED.test(entry.name))
      .map(({ name }) => name);
    for (const name of this.seen.keys()) if (!names.includes(name)) this.seen.delete(name);
    const still: Found[] = [];
    for (const name of names.sort()) {
      // It may be gone by now.
      const stat = await lstat(join(this.folder, name)).catch(() => null);
      if (!stat) continue;
      const of = `${stat.ino} ${stat.size} ${stat.mtimeMs}`;
      const before = this.seen.get(name);
      if (before?.of !== of) this.seen.set(name, { of, since: now });
      else if (now - before.since >= this.stillMs) {
        still.push({
          ...{ name, bytes: stat.size, changedAt: Math.round(stat.mtimeMs) },
          regular: stat.isFile(),
        });
      }
    }
    return still;
  }
}

/** Hidden, or named as copies are that are not whole. */
const UNFINISHED = /^[.~]|\.(part|partial|tmp|crdownload|filepart)$/i;
