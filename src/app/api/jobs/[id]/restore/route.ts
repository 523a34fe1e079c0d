import { restoreWithRecord } from '@/server/record/gone';
import { readJob } from '@/server/db/jobs';
import { numberFrom, route } from '@/server/http/route';

/** Brings a deleted job back to the board. */
export const POST = route<{ id: string }>(async ({ db, params }) => {
  const id = numberFrom(params.id);
  await restoreWithRecord(db, id);
  return readJob(db, id);
});
