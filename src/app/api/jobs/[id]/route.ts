import { z } from 'zod';
import { JobChange } from '@/core/shop/job';
import { changeJob, readJob } from '@/server/db/jobs';
import { body, numberFrom, query, route } from '@/server/http/route';
import { deleteKeepingRecord } from '@/server/record/gone';

interface Params {
  id: string;
}

const Asked = z.object({ piece: z.coerce.number().int().positive().optional() });

export const GET = route<Params>(({ db, params, request }) =>
  readJob(db, numberFrom(params.id), query(request, Asked).piece),
);

export const PATCH = route<Params>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  await changeJob(db, id, await body(request, JobChange));
  return readJob(db, id, query(request, Asked).piece);
});

/** Off the board for good; for a day it can be brought back. */
export const DELETE = route<Params>(({ db, params }) =>
  deleteKeepingRecord(db, numberFrom(params.id)),
);
