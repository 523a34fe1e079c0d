import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { readRun } from '@/server/db/runs';
import { store } from '@/server/files/store';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const TYPE = { tiff: 'image/tiff', jpeg: 'image/jpeg', png: 'image/png' } as const;

/** The finished file of a run, streamed under its own name. */
export const GET = route<{ id: string }>(async ({ db, params }) => {
  const run = await readRun(db, params.id);
  if (!run.result) throw new Problem('missing', 'This run has no file: it is not done.');
  const path = store.result(run.id);
  const file = await stat(path).catch(() => {
    throw new Problem(
      'missing',
      'The file of this run was cleared away. Run the trial again; it gives the same bytes.',
    );
  });
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>, {
    headers: {
      'Content-Type': TYPE[run.recipe.output.format],
      'Content-Length': String(file.size),
      'Content-Disposition': `attachment; filename="${run.result.fileName}"`,
    },
  });
});
