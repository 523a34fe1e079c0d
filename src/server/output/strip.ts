import { closeSync, openSync } from 'node:fs';
import { constants, deflateRawSync, deflateSync } from 'node:zlib';
import { readWhole } from '../files/whole-io';
import { adler32 } from './adler';
import { lzwEncode } from './lzw';
import { filterRow } from './png-filter';
import { lineOf, type SampleFile } from './samples';

/** Rows of a file of plain samples that are to be packed on their own. */
export interface StripTask {
  strip: SampleFile;
  first: number;
  rows: number;
  /**
   * as a strip of a TIFF: differences by LZW or deflate; or as a part of the one zlib stream of a PDF or PNG, deflated up
   * to the border of a byte: differences, or filtered rows
   */
  packing: 'lzw' | 'deflate' | StreamPacking;
}

/** What a zlib stream of samples holds: their differences from the left, or rows filtered as a PNG's are. */
export type StreamPacking = 'differences' | 'filtered';

/** A packed strip. */
export interface PackedStrip {
  bytes: Uint8Array;
  /** of a part of a stream: the sum and the number of the bytes that it was made from */
  sum: number;
  length: number;
}

/** Differences gain little from a higher one, at twice the time. */
const LEVEL = 4;

/** Packs rows of samples. @throws Error where the file ends before them */
export function packStrip(task: StripTask): PackedStrip {
  if (task.packing === 'filtered') return packFiltered(task);
  const { strip, first, rows, packing } = task;
  const bytes = rowsOf(strip, first, rows);
  const samples =
    strip.depth === 8 ? bytes : new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2);
  toDifferences(samples, strip.channels, strip.size.width * strip.channels);
  if (packing === 'differences') {
    // A PDF counts from the high byte.
    if (strip.depth === 16) bytes.swap16();
    return partOfStream(bytes);
  }
  const packed = packing === 'lzw' ? lzwEncode(bytes) : deflateSync(bytes, { level: LEVEL });
  return { bytes: packed, sum: 0, length: bytes.length };
}

function rowsOf(strip: SampleFile, first: number, rows: number): Buffer {
  const line = lineOf(strip);
  const stride = strip.within?.stride ?? line;
  const bytes = Buffer.from(new ArrayBuffer(rows * line));
  const file = openSync(strip.path, 'r');
  try {
    if (stride === line) readWhole(file, bytes, strip.start + first * line);
    else {
      for (let y = 0; y < rows; y++) {
        const row = bytes.subarray(y * line, (y + 1) * line);
        readWhole(file, row, strip.start + (first + y) * stride);
      }
    }
  } finally {
    closeSync(file);
  }
  return bytes;
}

/** Each sample becomes its difference from the same one of the pixel to its left (TIFF 6.0, section 14), in place. */
function toDifferences(samples: Uint8Array | Uint16Array, channels: number, line: number): void {
  for (let from = 0; from < samples.length; from += line) {
    for (let i = from + line - 1; i >= from + channels; i--) samples[i]! -= samples[i - channels]!;
  }
}

/** Rows that are filtered by the ones above them, the first by the last one of the strip before. */
function packFiltered({ strip, first, rows }: StripTask): PackedStrip {
  const line = lineOf(strip);
  const pixel = (strip.channels * strip.depth) / 8;
  const before = first === 0 ? 0 : 1;
  const samples = rowsOf(strip, first - before, rows + before);
  if (strip.depth === 16) samples.swap16();
  const row = (y: number) => samples.subarray((y + before) * line, (y + before + 1) * line);
  const filtered = new Uint8Array(rows * (line + 1));
  let above: Uint8Array = before ? row(-1) : new Uint8Array(line);
  for (let y = 0; y < rows; y++) {
    filterRow(row(y), above, pixel, filtered.subarray(y * (line + 1), (y + 1) * (line + 1)));
    above = row(y);
  }
  return partOfStream(filtered);
}

function partOfStream(bytes: Uint8Array): PackedStrip {
  const options = { level: LEVEL, finishFlush: constants.Z_SYNC_FLUSH };
  return { bytes: deflateRawSync(bytes, options), sum: adler32(bytes), length: bytes.length };
}
