import type { ShareDone, ToWrite } from './result-writer';
import type { SampleFile } from './samples';
import type { PackedStrip, StripTask } from './strip';

/** Strips that are packed at a time: as many as keep all threads busy while one is written. */
const AT_ONCE = 6;

/** What packs strips, and what stops it. */
export type Packing = Pick<ToWrite, 'packed' | 'signal'>;

/**
 * Strips of so many rows of plain samples, packed on all threads, from top to bottom. A few are under way at a time.
 * @throws the signal's reason where aborted
 */
export async function* packedInOrder(
  strip: SampleFile,
  rows: number,
  packing: StripTask['packing'],
  { packed, signal }: Packing,
  told: ShareDone,
): AsyncGenerator<PackedStrip> {
  const { height } = strip.size;
  const pending: Promise<PackedStrip>[] = [];
  let done = 0;
  const next = async (): Promise<PackedStrip> => {
    const one = await pending.shift()!;
    done += rows;
    told(Math.min(1, done / height));
    return one;
  };
  try {
    for (let first = 0; first < height; first += rows) {
      signal?.throwIfAborted();
      const one = packed({ strip, packing, first, rows: Math.min(rows, height - first) });
      // It is waited for in its turn; until then it must not count as unheard.
      one.catch(() => {});
      pending.push(one);
      if (pending.length >= AT_ONCE) yield await next();
    }
    while (pending.length > 0) yield await next();
  } finally {
    await Promise.allSettled(pending);
  }
}
