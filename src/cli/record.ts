import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import { finished } from 'node:stream/promises';
import type { JobRecord } from '@/core/shop/record';
import { Problem } from '@/server/problem';
import { jobOfNumber, recordOfAny } from '@/server/record/gone';
import { dayOf } from '@/server/record/read-record';
import { thumbnailsOf } from '@/server/record/thumbnails';
import { writeRecord } from '@/server/record/write-record';
import { withShop } from './shop';

/** Says what a shop knows of a job, whether it is open or not; changes nothing. */
export async function record(
  number: string,
  options: { data?: string; json?: boolean; pdf?: string },
): Promise<void> {
  await withShop(options.data, async (db) => {
    const found = await recordOfAny(db, await jobOfNumber(db, number));
    if (options.pdf) await toPdf(found, resolve(options.pdf));
    else console.log(options.json ? JSON.stringify(found) : recordText(found));
  });
}

async function toPdf(found: JobRecord, out: string): Promise<void> {
  const part = `${out}.part`;
  const file = createWriteStream(part);
  const written = finished(file);
  written.catch(() => {});
  try {
    writeRecord(found, { thumbnails: await thumbnailsOf(found) }, file);
    await written;
    await rename(part, out);
    console.log(`${basename(out)}: the record of job ${found.number}`);
  } catch (error) {
    await rm(part, { force: true }).catch(() => {});
    const { code } = error as NodeJS.ErrnoException;
    if (!code) throw error;
    throw new Problem('work', `The record can't be written to ${out} (${code}). Nothing was kept.`);
  }
}

/** Labels are as wide as this. */
const LABEL = 16;

function recordText({ number, title, head, pieces, events, writtenBy }: JobRecord): string {
  const rows = (list: { label: string; text: string }[]) =>
    list.map(({ label, text }) => `  ${label.padEnd(LABEL)} ${text}`);
  return [
    `${number} ${title}`,
    ...rows(head),
    ...pieces.flatMap(({ fileName, sections }) => [
      '',
      fileName,
      ...sections.flatMap((section) => [section.title, ...rows(section.rows)]),
    ]),
    '',
    'What happened',
    ...rows(events.map(({ at, words }) => ({ label: dayOf(at), text: words }))),
    '',
    writtenBy,
  ].join('\n');
}
