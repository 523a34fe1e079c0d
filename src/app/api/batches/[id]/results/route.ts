import { nameByHand } from '@/core/output/names';
import { readBatch } from '@/server/batch/batches';
import { resultsZip } from '@/server/batch/results-zip';
import { bodyLength } from '@/server/http/body-length';
import { numberFrom, route } from '@/server/http/route';

/** Its results in one ZIP, as they are read. */
export const GET = route<{ id: string }>(async ({ db, params }) => {
  const { id, name } = await readBatch(db, numberFrom(params.id));
  const { stream, bytes } = await resultsZip(db, id);
  const fileName = nameByHand(name, ['zip']);
  return new Response(stream, {
    headers: {
      'Content-Type': 'application/zip',
      ...bodyLength(bytes),
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
    },
  });
});
