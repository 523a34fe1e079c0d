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
  const inflate = createInflate({ chunkSize: 1 << 18 });
  // What goes wrong on the way ends the inflated stream, where it is heard.
  pipeline(compressed, inflate).catch(() => {});
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
