import { mkdirSync, readdirSync } from 'node:fs';
import { appendFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type Database from 'better-sqlite3';
import { ASIDE, TAKEN } from '../src/server/drop/take-from';
import { goodPicture } from './mutants';
import { later } from './shop';
import type { Somebody } from './technician';

/** Pictures that are put there are none that somebody uploads as well. */
const FIRST = 500_000;
/** Of so many files one is no picture. */
const OTHERS = 4;

/** A watched folder into which files are put while processes of the shop are killed. */
export class HotFolder {
  /** pictures that were put there whole, by the names that they have, and files that are none */
  private readonly pictures: string[] = [];
  private readonly others: string[] = [];

  constructor(private readonly path: string) {
    mkdirSync(path, { recursive: true });
  }

  /** As the shop's configuration names it. */
  get entry() {
    return { name: 'Hot folder', path: this.path, size: { by: 'longest', text: '8 cm' }, ppi: 40 };
  }

  /** Puts one file after the other there, each in two parts. */
  async fill({ random, over }: Somebody): Promise<void> {
    for (let n = 1; !over(); n++) {
      const none = random.below(OTHERS) === 0;
      const name = none ? `dropped ${n}.txt` : `dropped ${n}.jpg`;
      const bytes = none ? Buffer.from(`letter ${n}`) : await goodPicture(FIRST + n);
      const half = bytes.length >> 1;
      await writeFile(join(this.path, name), bytes.subarray(0, half));
      await later(random.below(800));
      await appendFile(join(this.path, name), bytes.subarray(half));
      (none ? this.others : this.pictures).push(name);
      await later(500 + random.below(3000));
    }
  }

  /** Files that nobody has seen to yet. */
  waiting(): string[] {
    return readdirSync(this.path, { withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map(({ name }) => name);
  }

  get count(): number {
    return this.pictures.length + this.others.length;
  }

  /** Compares the folder with a closed shop: every picture is one job, in one batch; what is none lies aside with a note. */
  check(db: Database.Database): string[] {
    const wrong = this.waiting().map((name) => `${name} still waits in its folder`);
    const taken = new Set(readdirSync(join(this.path, TAKEN)));
    const jobs = db.prepare('select id from jobs where title = ?').pluck();
    const batches = db
      .prepare(
        'select count(*) from batch_items join pieces on pieces.id = piece_id where job_id = ?',
      )
      .pluck();
    for (const name of this.pictures) {
      if (!taken.has(name)) wrong.push(`${name} is not among what was taken in`);
      const [job, ...more] = jobs.all(name.replace('.jpg', '')) as number[];
      if (job === undefined) wrong.push(`${name} became no job`);
      else if (more.length > 0) wrong.push(`${name} became ${more.length + 1} jobs`);
      else if (batches.get(job) !== 1) wrong.push(`${name} is in ${batches.get(job)} batches`);
    }
    const aside = new Set(this.others.length > 0 ? readdirSync(join(this.path, ASIDE)) : []);
    for (const name of this.others) {
      if (!aside.has(name)) wrong.push(`${name} was not put aside`);
    }
    const notes = [...aside].filter((name) => name.endsWith('.txt.txt')).length;
    if (notes < this.others.length) wrong.push(`${this.others.length} files aside, ${notes} notes`);
    return wrong;
  }
}
