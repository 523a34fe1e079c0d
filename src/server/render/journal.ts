import { appendFile, readFile, rm, writeFile } from 'node:fs/promises';
import { z } from 'zod';

/** A part that is done: of which job of the schedule, and the sums of what was written. */
const Entry = z.object({ job: z.int(), part: z.int(), sums: z.string() });

/**
 * What of a run is done, in a file beside its parts, so that whoever takes it up again goes on from there. A part is
 * noted after it was written; a line that was cut off is a part that wasn't noted.
 */
export class Journal {
  private readonly parts = new Map<string, Uint32Array>();
  private writing: Promise<void> = Promise.resolve();

  private constructor(private readonly path: string) {}

  /**
   * Opens the journal at a path, or begins it.
   * @param plan what the run does and in which parts: what was done by another plan doesn't count
   */
  static async open(path: string, plan: string): Promise<Journal> {
    const journal = new Journal(path);
    const [first, ...lines] = await readFile(path, 'utf8').then(
      (text) => text.split('\n'),
      () => [''],
    );
    if (first === plan) {
      lines.forEach((line) => journal.read(line));
      // A line that was cut off is not gone on with.
      if (lines.at(-1) !== '') await appendFile(path, '\n');
    } else await writeFile(path, `${plan}\n`);
    return journal;
  }

  /** Whether anything is done. */
  isBegun(): boolean {
    return this.parts.size > 0;
  }

  /** Parts of a job that are done, with their sums. */
  done(job: number): Map<number, Uint32Array> {
    const own = [...this.parts].map(([key, sums]) => [key.split(' ').map(Number), sums] as const);
    return new Map(own.flatMap(([[of, part], sums]) => (of === job ? [[part!, sums]] : [])));
  }

  /** Notes a part. */
  note(job: number, part: number, sums: Uint32Array): void {
    this.parts.set(`${job} ${part}`, sums);
    const bytes = Buffer.from(sums.buffer, sums.byteOffset, sums.byteLength).toString('base64');
    const line = `${JSON.stringify({ job, part, sums: bytes })}\n`;
    // What can't be noted is done again, no more.
    this.writing = this.writing.then(() => appendFile(this.path, line)).catch(() => {});
  }

  /** Takes back that parts are done. */
  forget(job: number, parts: readonly number[]): void {
    for (const part of parts) this.parts.delete(`${job} ${part}`);
  }

  /** Waits until all is noted. */
  written(): Promise<void> {
    return this.writing;
  }

  async remove(): Promise<void> {
    await this.writing;
    await rm(this.path, { force: true });
  }

  private read(line: string): void {
    try {
      const { job, part, sums } = Entry.parse(JSON.parse(line));
      const bytes = Buffer.from(sums, 'base64');
      const words = new Uint32Array(bytes.length / 4);
      Buffer.from(words.buffer).set(bytes);
      this.parts.set(`${job} ${part}`, words);
    } catch {
      // the last line, cut off where its process was ended
    }
  }
}
