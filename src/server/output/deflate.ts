import { constants, deflateRaw } from 'node:zlib';
import { promisify } from 'node:util';

const deflated = promisify(deflateRaw);

/** Rows that were filtered gain a fifteenth from a higher one, at twice the time. */
const LEVEL = 4;
/** How far back what is compressed can refer. */
const WINDOW = 1 << 15;
/** Blocks that are compressed at a time, on the engine's own threads. */
const AT_ONCE = 4;
/** Deflate, a window of 32 kB, no dictionary, a quick level (RFC 1950). */
const HEADER = Buffer.from([0x78, 0x5e]);

/**
 * Compresses blocks into one zlib stream (RFC 1950), several at a time: each on its own up to the border of a byte,
 * with the end of the one before as its dictionary. Memory holds a few blocks.
 * @param blocks what follows each other; none is changed while it is compressed
 */
export async function* deflateBlocks(
  blocks: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
): AsyncGenerator<Buffer> {
  yield HEADER;
  const pending: Promise<Buffer>[] = [];
  const sum = new Adler32();
  let dictionary: Uint8Array = Buffer.alloc(0);
  try {
    for await (const block of blocks) {
      sum.add(block);
      const options = { level: LEVEL, finishFlush: constants.Z_SYNC_FLUSH };
      const one = deflated(block, dictionary.length > 0 ? { ...options, dictionary } : options);
      // It is waited for below, in its turn; until then it must not count as unheard.
      one.catch(() => {});
      pending.push(one);
      dictionary = block.subarray(-WINDOW);
      if (pending.length >= AT_ONCE) yield await pending.shift()!;
    }
    while (pending.length > 0) yield await pending.shift()!;
  } finally {
    await Promise.allSettled(pending);
  }
  yield await deflated(Buffer.alloc(0), { finishFlush: constants.Z_FINISH });
  yield sum.bytes();
}

/** The sum of a zlib stream (RFC 1950, 8.2). */
class Adler32 {
  private a = 1;
  private b = 0;

  add(bytes: Uint8Array): void {
    let { a, b } = this;
    for (let from = 0; from < bytes.length; from += MOST) {
      const to = Math.min(bytes.length, from + MOST);
      for (let i = from; i < to; i++) b += a += bytes[i]!;
      a %= BASE;
      b %= BASE;
    }
    Object.assign(this, { a, b });
  }

  bytes(): Buffer {
    const sum = Buffer.alloc(4);
    sum.writeUInt16BE(this.b, 0);
    sum.writeUInt16BE(this.a, 2);
    return sum;
  }
}

const BASE = 65_521;
/** So many bytes are added before the sums are reduced: they stay within 32 bits. */
const MOST = 3800;
