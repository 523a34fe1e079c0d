import { restoreJob } from '@/server/db/deleting';
import { readJob } from '@/server/db/jobs';
import { numberFrom, route } from '@/server/http/route';

/** Brings a deleted job back to the board. */
export const POST = route<{ id: string }>(async ({ db, params }) => {
  const id = numberFrom(params.id);
  await restoreJob(db, id);
  return readJob(db, id);
});
