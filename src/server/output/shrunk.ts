import { open } from 'node:fs/promises';
import { levelSize } from '@/core/raster/tiles';
import { rawHeader, writeRawRows } from '../codecs/raw';
import { RowMeans } from './row-means';
import type { ReadRow, SampleForm } from './samples';

/** A result is kept halved so many times, to be looked at from afar at once. */
export const SHRUNK_LEVEL = 3;

/**
 * The rows of a finished file on their way, and what they come to at an eighth of its size, written as decoded pixels.
 * @param out where to, or nothing
 */
export async function* shrunk(
  rows: AsyncIterable<ReadRow>,
  form: SampleForm,
  out: string | undefined,
): AsyncGenerator<ReadRow> {
  if (!out) {
    yield* rows;
    return;
  }
  const small = levelSize(form.size, SHRUNK_LEVEL);
  const means = new RowMeans(form, small);
  const file = await open(out, 'w');
  const write = (one: ReadRow | null) => one && writeRawRows(file, one.row, one.y, one.row.length);
  try {
    await file.write(rawHeader(small, form.channels, form.depth), 0);
    for await (const one of rows) {
      write(means.add(one));
      yield one;
    }
    write(means.end());
  } finally {
    await file.close();
  }
}
