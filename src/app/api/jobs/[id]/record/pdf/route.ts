import { PassThrough, Readable } from 'node:stream';
import { numberFrom, route } from '@/server/http/route';
import { recordOfAny } from '@/server/record/gone';
import { thumbnailsOf } from '@/server/record/thumbnails';
import { writeRecord } from '@/server/record/write-record';

/** The same as a PDF. */
export const GET = route<{ id: string }>(async ({ db, params }) => {
  const record = await recordOfAny(db, numberFrom(params.id));
  const thumbnails = await thumbnailsOf(record);
  const stream = new PassThrough();
  writeRecord(record, { thumbnails }, stream);
  return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${record.number}-record.pdf"`,
    },
  });
});
