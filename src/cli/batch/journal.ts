import { appendFile, open, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';

/** A result, as a batch has to say of it. */
const Result = z.object({
  /** its file's name */
  out: z.string(),
  width: z.int(),
  height: z.int(),
  ppi: z.number(),
  /** share of the picture that its file had lost */
  missing: z.number().default(0),
  /** what it is and how it will look from its distance, in words, and what was done; null where nobody looked at the picture */
  seen: z
    .object({ kind: z.string(), verdict: z.string(), steps: z.array(z.string()) })
    .nullable()
    .default(null),
});
export type Result = z.infer<typeof Result>;

/** What a result is made of: a file, its bytes, and what was asked. */
const Origin = z.object({ file: z.string(), digest: z.string(), by: z.string() });
export type Origin = z.infer<typeof Origin>;

const Made = Origin.extend(Result.shape).extend({ bytes: z.int(), changedAt: z.number() });
/** Said before a result is made, so that whatever lies there under its name afterwards is known to be ours. */
const Begun = z.object({ file: z.string(), begun: z.string() });

const Entry = z.union([Made, Begun]);
type Entry = z.infer<typeof Entry>;

/** What is called where it lies, beside the results. */
const NAME = 'lontano-batch.jsonl';

/**
 * What batches made in a folder, so that the same is never made twice: a line for each result that is begun, and one
 * where it is whole and on the disk. A line that was broken off is none.
 */
export class BatchJournal {
  private writing: Promise<void> = Promise.resolve();

  private constructor(
    private readonly folder: string,
    private readonly entries: Map<string, Entry>,
  ) {}

  static async open(folder: string): Promise<BatchJournal> {
    const text = await readFile(join(folder, NAME), 'utf8').catch(() => '');
    const entries = new Map<string, Entry>();
    for (const line of text.split('\n')) {
      const entry = readEntry(line);
      if (entry) entries.set(entry.file, entry);
    }
    return new BatchJournal(folder, entries);
  }

  /** The result of an origin, where it was made and is as it was. */
  async find({ file, digest, by }: Origin): Promise<Result | null> {
    const entry = this.entries.get(file);
    if (!entry || !('out' in entry) || entry.digest !== digest || entry.by !== by) return null;
    return (await this.isAsMade(entry)) ? Result.parse(entry) : null;
  }

  /** What the result of a file is called, where that may be written over: nobody else worked on it since. */
  async nameOf(file: string): Promise<string | null> {
    const entry = this.entries.get(file);
    if (!entry) return null;
    if ('begun' in entry) return entry.begun;
    const there = await stat(join(this.folder, entry.out)).catch(() => null);
    return !there || (await this.isAsMade(entry)) ? entry.out : null;
  }

  begin = (file: string, out: string): Promise<void> => this.write({ file, begun: out });

  /** Says that a result is whole, once its bytes are on the disk. Nobody has to wait for it. */
  note(origin: Origin, result: Result): void {
    this.writing = this.writing.then(async () => {
      const path = join(this.folder, result.out);
      const file = await open(path, 'r+');
      await file.datasync().finally(() => file.close());
      const { size, mtimeMs } = await stat(path);
      await this.write({ ...origin, ...result, bytes: size, changedAt: mtimeMs });
    });
    // Whoever closes it hears of that.
    this.writing.catch(() => {});
  }

  /** All that was noted is written. @throws what kept it from being written */
  close = (): Promise<void> => this.writing;

  private async write(entry: Entry): Promise<void> {
    this.entries.set(entry.file, entry);
    // With a line break before it, so that what was broken off stays alone.
    await appendFile(join(this.folder, NAME), `\n${JSON.stringify(entry)}`);
  }

  private async isAsMade({ out, bytes, changedAt }: z.infer<typeof Made>): Promise<boolean> {
    const there = await stat(join(this.folder, out)).catch(() => null);
    return there?.size === bytes && there.mtimeMs === changedAt;
  }
}

function readEntry(line: string): Entry | null {
  try {
    return Entry.parse(JSON.parse(line));
  } catch {
    return null;
  }
}
