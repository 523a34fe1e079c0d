import { deflateRawSync } from 'node:zlib';
import { joinedAdler32 } from './adler';
import type { ShareDone } from './result-writer';
import { lineOf, type SampleFile } from './samples';
import type { StreamPacking } from './strip';
import { packedInOrder, type Packing } from './packed';

/** Samples that are filtered and compressed at a time. */
const BLOCK_BYTES = 1 << 20;
/** Deflate, a window of 32 kB, no dictionary, a quick level (RFC 1950). */
const HEADER = Buffer.from([0x78, 0x5e]);

/**
 * Plain samples as one zlib stream, as the pixels of a PNG and of a PDF are (RFC 1950): each block is packed on a thread, on its own up to the border of a byte. Memory holds a few blocks.
 * @throws the signal's reason where aborted
 */
export async function* packedStream(
  samples: SampleFile,
  packing: StreamPacking,
  by: Packing,
  told: ShareDone,
): AsyncGenerator<Uint8Array> {
  const rows = Math.max(1, Math.floor(BLOCK_BYTES / lineOf(samples)));
  let sum = 1;
  yield HEADER;
  for await (const { bytes, ...packed } of packedInOrder(samples, rows, packing, by, told)) {
    sum = joinedAdler32(sum, packed.sum, packed.length);
    yield bytes;
  }
  yield deflateRawSync(Buffer.alloc(0));
  const end = Buffer.alloc(4);
  end.writeUInt32BE(sum, 0);
  yield end;
}
