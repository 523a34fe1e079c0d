import { open } from 'node:fs/promises';
import { levelSize } from '@/core/raster/tiles';
import { rawHeader, writeRawRows } from '../codecs/raw';
import type { ReadRow, SampleForm } from './samples';

/** A result is kept halved so many times, to be looked at from afar at once. */
export const SHRUNK_LEVEL = 3;

/**
 * The rows of a finished file on their way, and what they come to at an eighth of its size, written as decoded pixels:
 * means of squares, which share the picture out evenly.
 * @param out where to, or nothing
 */
export async function* shrunk(
  rows: AsyncIterable<ReadRow>,
  { size, channels, depth }: SampleForm,
  out: string | undefined,
): AsyncGenerator<ReadRow> {
  if (!out) {
    yield* rows;
    return;
  }
  const small = levelSize(size, SHRUNK_LEVEL);
  const file = await open(out, 'w');
  try {
    await file.write(rawHeader(small, channels, depth), 0);
    const columns = Uint32Array.from({ length: size.width }, (_, x) =>
      Math.floor((x * small.width) / size.width),
    );
    const across = new Uint32Array(small.width);
    for (const column of columns) across[column]!++;
    const sums = new Float64Array(small.width * channels);
    const line = Buffer.alloc((small.width * channels * depth) / 8);
    const samples =
      depth === 8 ? line : new Uint16Array(line.buffer, line.byteOffset, line.length / 2);
    let begun = 0;
    let count = 0;
    const finish = () => {
      for (let i = 0; i < sums.length; i++) {
        samples[i] = Math.round(sums[i]! / (count * across[Math.floor(i / channels)]!));
      }
      writeRawRows(file, line, begun, line.length);
      sums.fill(0);
      count = 0;
    };
    for await (const one of rows) {
      const row = Math.floor((one.y * small.height) / size.height);
      if (row !== begun) {
        finish();
        begun = row;
      }
      add(sums, one.row, columns, channels, depth);
      count++;
      yield one;
    }
    if (count > 0) finish();
  } finally {
    await file.close();
  }
}

function add(
  sums: Float64Array,
  row: Uint8Array,
  columns: Uint32Array,
  channels: number,
  depth: 8 | 16,
): void {
  const aligned = depth === 8 || row.byteOffset % 2 === 0 ? row : Uint8Array.from(row);
  const values =
    depth === 8 ? aligned : new Uint16Array(aligned.buffer, aligned.byteOffset, aligned.length / 2);
  for (let x = 0, i = 0; x < columns.length; x++) {
    const at = columns[x]! * channels;
    for (let c = 0; c < channels; c++, i++) sums[at + c]! += values[i]!;
  }
}
