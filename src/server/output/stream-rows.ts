import { pipeline } from 'node:stream/promises';
import { createInflate } from 'node:zlib';
import { unfilterRow } from './png-filter';
import { lineOf, type ReadRow, type SampleForm } from './samples';

/**
 * Every row of a zlib stream of filtered rows, with memory for two of them. A row's bytes hold until the next one is
 * asked for.
 * @throws Error where the stream is damaged
 */
export async function* unfilteredRows(
  compressed: AsyncIterable<Uint8Array>,
  form: SampleForm,
): AsyncGenerator<ReadRow> {
  const line = lineOf(form);
  const pixel = (form.channels * form.depth) / 8;
  const above = Buffer.alloc(line);
  const shown = Buffer.alloc(line);
  // The number of the filter, and the row.
  for await (const { y, row: filtered } of inflatedRows(compressed, line + 1)) {
    const row = filtered.subarray(1);
    unfilterRow(filtered[0]!, row, above, pixel);
    row.copy(above);
    row.copy(shown);
    if (form.depth === 16) shown.swap16();
    yield { y, row: shown };
  }
}

/** The same of a stream of differences from the left. */
export async function* summedRows(
  compressed: AsyncIterable<Uint8Array>,
  form: SampleForm,
): AsyncGenerator<ReadRow> {
  const { channels, depth } = form;
  for await (const { y, row } of inflatedRows(compressed, lineOf(form))) {
    if (depth === 16) row.swap16();
    const samples = depth === 8 ? row : new Uint16Array(row.buffer, row.byteOffset, row.length / 2);
    for (let i = channels; i < samples.length; i++) samples[i]! += samples[i - channels]!;
    yield { y, row };
  }
}

/** What a zlib stream holds, in rows of so many bytes. */
async function* inflatedRows(
  compressed: AsyncIterable<Uint8Array>,
  bytes: number,
): AsyncGenerator<{ y: number; row: Buffer }> {
  const inflate = createInflate({ chunkSize: 1 << 18 });
  // What goes wrong on the way ends the inflated stream, where it is heard.
  pipeline(compressed, inflate).catch(() => {});
  const row = Buffer.from(new ArrayBuffer(bytes));
  let filled = 0;
  let y = 0;
  for await (const piece of inflate as AsyncIterable<Buffer>) {
    for (let from = 0; from < piece.length;) {
      const taken = piece.copy(row, filled, from);
      from += taken;
      filled += taken;
      if (filled < bytes) continue;
      yield { y: y++, row };
      filled = 0;
    }
  }
}
