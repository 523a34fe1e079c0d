import { closeSync, openSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { crc32, createInflate, deflateSync } from 'node:zlib';
import { readWhole } from '../files/whole-io';
import { deflateBlocks } from './deflate';
import { PNG_SIGNATURE, pngChunk, pngHeader } from './png-chunks';
import { filterRow, unfilterRow } from './png-filter';
import type { ShareDone } from './result-writer';
import { lineOf, type ReadRow, type SampleFile, type SampleForm } from './samples';

/** Samples that are filtered and compressed at a time. */
const BLOCK_BYTES = 1 << 20;
const INCH = 0.0254;
/** A unit of pHYs: pixels a metre. */
const METRE = 1;
const TRUE_COLOUR = 2;
const WITH_ALPHA = 6;

/**
 * Writes plain samples as a PNG, block after block: memory is the same whatever its size.
 * @throws the signal's reason where aborted
 */
export async function writePngFile(
  path: string,
  samples: SampleFile,
  { ppi, profile, signal, told = () => {} }: PngTags,
): Promise<void> {
  const { size, depth, channels } = samples;
  const out = await open(path, 'w');
  const write = (type: string, data: Uint8Array) => out.writeFile(pngChunk(type, data));
  try {
    await out.writeFile(PNG_SIGNATURE);
    const colour = channels === 4 ? WITH_ALPHA : TRUE_COLOUR;
    await write('IHDR', pngHeader(size.width, size.height, { bits: depth, colour }));
    if (profile) {
      const named = Buffer.from('profile\0\0', 'latin1');
      await write('iCCP', Buffer.concat([named, deflateSync(profile)]));
    }
    const resolution = Buffer.alloc(9);
    resolution.writeUInt32BE(Math.round(ppi / INCH), 0);
    resolution.writeUInt32BE(Math.round(ppi / INCH), 4);
    resolution[8] = METRE;
    await write('pHYs', resolution);
    for await (const piece of deflateBlocks(filteredBlocks(samples, told, signal))) {
      await write('IDAT', piece);
    }
    await write('IEND', Buffer.alloc(0));
  } finally {
    await out.close();
  }
}

/** What a PNG carries besides its samples. */
interface PngTags {
  ppi: number;
  profile: Uint8Array | null;
  signal?: AbortSignal | undefined;
  told?: ShareDone;
}

async function* filteredBlocks(
  samples: SampleFile,
  told: ShareDone,
  signal?: AbortSignal,
): AsyncGenerator<Uint8Array> {
  const { path, start, size, depth, channels } = samples;
  const line = lineOf(samples);
  const pixel = (channels * depth) / 8;
  const most = Math.max(1, Math.floor(BLOCK_BYTES / line));
  const file = openSync(path, 'r');
  let above = Buffer.alloc(line);
  let row = Buffer.alloc(line);
  try {
    for (let y = 0; y < size.height; y += most) {
      signal?.throwIfAborted();
      const rows = Math.min(most, size.height - y);
      const block = Buffer.allocUnsafe(rows * (line + 1));
      for (let k = 0; k < rows; k++) {
        readWhole(file, row, start + (y + k) * line);
        if (depth === 16) row.swap16();
        filterRow(row, above, pixel, block.subarray(k * (line + 1), (k + 1) * (line + 1)));
        [above, row] = [row, above];
      }
      yield block;
      told((y + rows) / size.height);
      // Filtering is this thread's own work: others get their turn.
      await new Promise(setImmediate);
    }
  } finally {
    closeSync(file);
  }
}

/**
 * Every row of a PNG as `writePngFile` makes it, with memory for two rows: for those that are too wide for other
 * readers. A row's bytes hold until the next one is asked for.
 * @throws Error where the file is damaged or another kind of PNG
 */
export async function* pngRows(
  path: string,
  form: SampleForm,
  signal?: AbortSignal,
): AsyncGenerator<ReadRow> {
  const line = lineOf(form);
  const pixel = (form.channels * form.depth) / 8;
  const inflate = createInflate();
  // What goes wrong on the way ends the inflated stream, where it is heard.
  pipeline(compressedParts(path, signal), inflate).catch(() => {});
  // The number of the filter, and the row.
  const filtered = Buffer.alloc(line + 1);
  const row = filtered.subarray(1);
  const above = Buffer.alloc(line);
  const shown = Buffer.alloc(line);
  let filled = 0;
  let y = 0;
  for await (const piece of inflate as AsyncIterable<Buffer>) {
    for (let from = 0; from < piece.length;) {
      const taken = piece.copy(filtered, filled, from);
      from += taken;
      filled += taken;
      if (filled <= line) continue;
      unfilterRow(filtered[0]!, row, above, pixel);
      row.copy(above);
      row.copy(shown);
      if (form.depth === 16) shown.swap16();
      yield { y: y++, row: shown };
      filled = 0;
    }
  }
}

const CHUNK_HEAD = 8;
const CHUNK_SUM = 4;

/** What a PNG's IDAT chunks hold. @throws Error where a chunk is not what its sum says */
async function* compressedParts(path: string, signal?: AbortSignal): AsyncGenerator<Buffer> {
  const file = openSync(path, 'r');
  const head = Buffer.alloc(CHUNK_HEAD);
  try {
    for (let at = PNG_SIGNATURE.length, type = ''; type !== 'IEND';) {
      signal?.throwIfAborted();
      readWhole(file, head, at);
      type = head.toString('latin1', 4);
      const length = head.readUInt32BE(0);
      if (type === 'IDAT') {
        const chunk = Buffer.allocUnsafe(length + CHUNK_SUM);
        readWhole(file, chunk, at + CHUNK_HEAD);
        const data = chunk.subarray(0, length);
        if (crc32(data, crc32(head.subarray(4))) !== chunk.readUInt32BE(length)) {
          throw new Error('a part of the PNG is damaged');
        }
        yield data;
      }
      at += CHUNK_HEAD + length + CHUNK_SUM;
    }
  } finally {
    closeSync(file);
  }
}
