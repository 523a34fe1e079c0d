import { NewPieces } from '@/core/shop/job';
import { addPieces } from '@/server/db/jobs';
import { readJob } from '@/server/db/jobs';
import { body, numberFrom, route } from '@/server/http/route';

/** More pictures for a job that is on the board. */
export const POST = route<{ id: string }>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  const added = await addPieces(db, id, await body(request, NewPieces));
  return readJob(db, id, added[0]);
});
