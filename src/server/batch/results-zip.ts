import { createReadStream, type ReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { PassThrough, Readable } from 'node:stream';
import type { Knex } from 'knex';
import yazl from 'yazl';
import type { BatchItem } from '@/core/batch/batch';
import { freeName } from '@/core/output/names';
import { artifactPath } from '../db/tasks';
import { store } from '../files/store';
import { Problem } from '../problem';
import { itemsNews } from './rows';

/** The list of all pictures, in the archive. */
const LIST = 'batch.csv';

/**
 * All results of a batch that are there, in one ZIP as it is read, with a list of what became of each picture.
 * @throws Problem where there is none yet
 */
export async function resultsZip(
  db: Knex,
  batch: number,
): Promise<{ stream: ReadableStream<Uint8Array>; bytes: number | null }> {
  const { rows } = await itemsNews(db, batch, { items: 0, tasks: 0 });
  rows.sort((a, b) => a.position - b.position || a.id - b.id);
  const zip = new yazl.ZipFile();
  const out = new PassThrough();
  /** the result that is read just now */
  let reading: ReadStream | null = null;
  // Whoever gives a download up leaves no file open; a result that goes meanwhile ends the download, not the server.
  out.on('close', () => reading?.destroy());
  const add = (path: string, name: string, size: number) =>
    zip.addReadStreamLazy(name, { compress: false, size }, (give) => {
      reading = createReadStream(path);
      reading.on('error', (error) => out.destroy(error));
      give(null, reading);
    });
  const names = new Set([LIST]);
  const lines = [line('picture', 'job', 'result', 'print', 'ppi', 'state', 'why')];
  for (const row of rows) {
    const path = row.state === 'done' && row.task && (await artifactPath(db, row.task, 'result'));
    const file = path && (await stat(store.named(path)).catch(() => null));
    const name = file && row.result ? freeName(row.result.name, names) : null;
    if (path && file && name) {
      names.add(name);
      add(store.named(path), name, file.size);
    }
    lines.push(lineOf(row, name));
  }
  if (names.size === 1) throw new Problem('missing', 'No result of this batch is there yet.');
  zip.addBuffer(Buffer.from(`${lines.join('\r\n')}\r\n`), LIST, { compress: false });
  const bytes = await new Promise<number>((resolve) =>
    zip.end({ forceZip64Format: false, comment: '' }, resolve as () => void),
  );
  zip.on('error', (error: Error) => out.destroy(error));
  zip.outputStream.pipe(out);
  return {
    stream: Readable.toWeb(out) as ReadableStream<Uint8Array>,
    bytes: bytes < 0 ? null : bytes,
  };
}

const lineOf = (row: BatchItem, result: string | null): string =>
  line(
    ...[row.fileName, row.number, result ?? '', row.facts.print, String(row.facts.ppi), row.state],
    row.error ?? row.facts.trouble ?? '',
  );

/** A line of CSV; what begins as a formula is text (OWASP, CSV injection). */
const line = (...fields: string[]): string =>
  fields
    .map((field) => `"${field.replace(/^([=+\-@\t\r])/, "'$1").replace(/"/g, '""')}"`)
    .join(',');
