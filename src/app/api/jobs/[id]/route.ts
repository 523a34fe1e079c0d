import { JobChange } from '@/core/shop/job';
import { changeJob, readJob } from '@/server/db/jobs';
import { body, numberFrom, route } from '@/server/http/route';

interface Params {
  id: string;
}

export const GET = route<Params>(({ db, params }) => readJob(db, numberFrom(params.id)));

export const PATCH = route<Params>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  await changeJob(db, id, await body(request, JobChange));
  return readJob(db, id);
});
