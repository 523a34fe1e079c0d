import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { Backups } from '../src/core/shop/backups';
import { ask } from './ask';
import { later } from './shop';
import type { Somebody } from './technician';

const NAME = 'Archives';

/** A folder of backups: the shop is backed up again and again while processes of it are killed. */
export class Archives {
  /** what the shop had said that it kept before it was asked for an archive, by the number of that work */
  private readonly before = new Map<number, { jobs: number[]; originals: string[] }>();

  constructor(private readonly path: string) {
    mkdirSync(path, { recursive: true });
  }

  /** As the shop's configuration names it. */
  get entry() {
    return { name: NAME, path: this.path };
  }

  /** Has archives written and compared; some are thought better of. */
  async keep(who: Somebody): Promise<void> {
    const { random, ledger, over } = who;
    while (!over()) {
      await later(2000 + random.below(8000));
      const kept = { jobs: [...ledger.jobs.keys()], originals: [...ledger.originals] };
      const written = Backups.safeParse(
        (await ask(who, 'archives', '/api/backups'))?.json,
      ).data?.folders.flatMap(({ archives }) => archives);
      const compares = written && written.length > 0 && random.below(4) === 0;
      const answer = await ask(who, compares ? 'compare' : 'back up', '/api/backups', 'POST', {
        folder: NAME,
        ...(compares
          ? { kind: 'check', file: random.pick(written).file }
          : { kind: 'write', allResults: random.below(2) === 0 }),
      });
      if (answer?.status !== 200) continue;
      const [newest] = Backups.parse(answer.json).works;
      if (newest && !compares) this.before.set(newest.id, kept);
      if (newest && random.below(8) === 0) {
        await later(random.below(1500));
        await ask(who, 'end a backup', `/api/backups/${newest.id}`, 'DELETE');
      }
    }
  }

  /** Whether one still goes on. */
  async isBusy(who: Somebody): Promise<boolean> {
    const answer = await ask(who, 'archives', '/api/backups');
    const { works = [] } = Backups.safeParse(answer?.json).data ?? {};
    return works.some(({ state }) => state === 'running');
  }

  /**
   * Restores archives that the shop said were written: each holds what it had said that it kept before.
   * @param folder where they are restored, one after the other
   */
  check(db: Database.Database, folder: string): { wrong: string[]; written: number } {
    const wrong: string[] = [];
    const works = db
      .prepare(`select id, kind, state, file, words from backups order by id`)
      .all() as { id: number; kind: string; state: string; file: string; words: string }[];
    const done = works.filter(({ kind, state }) => kind === 'write' && state === 'done');
    for (const { kind, state, file, words } of works) {
      if (state === 'running') wrong.push(`the backup ${file} did not end`);
      if (kind === 'check' && state === 'failed' && !/ended before/.test(words)) {
        wrong.push(`${file} did not compare: ${words}`);
      }
    }
    const files = new Set(done.map(({ file }) => file));
    for (const name of readdirSync(this.path)) {
      // What was ended in its midst is cleared away by a later backup.
      if (statSync(join(this.path, name)).isFile() && !files.has(name)) {
        wrong.push(`${name} lies among the archives, and nobody says that it is one`);
      }
    }
    for (const { file } of done) {
      if (!existsSync(join(this.path, file))) wrong.push(`the archive ${file} is not there`);
    }
    const last = done.at(-1);
    if (last) wrong.push(...this.restored(last, folder));
    return { wrong, written: done.length };
  }

  private restored({ id, file }: { id: number; file: string }, folder: string): string[] {
    const wrong: string[] = [];
    try {
      const words = ['bin/lontano.mjs', 'restore', join(this.path, file), folder];
      execFileSync(process.execPath, words, { stdio: 'pipe' });
      const db = new Database(join(folder, 'lontano.sqlite'), { readonly: true });
      const all = (query: string) => new Set(db.prepare(query).pluck().all());
      const [jobs, originals] = [all('select id from jobs'), all('select digest from originals')];
      db.close();
      const kept = this.before.get(id);
      for (const job of kept?.jobs ?? []) {
        if (!jobs.has(job)) wrong.push(`job ${job} is not in ${file}`);
      }
      for (const original of kept?.originals ?? []) {
        if (!originals.has(original)) wrong.push(`the original ${original} is not in ${file}`);
      }
    } catch (error) {
      wrong.push(`${file} can't be restored: ${String((error as Error).message).slice(0, 300)}`);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    return wrong;
  }
}
