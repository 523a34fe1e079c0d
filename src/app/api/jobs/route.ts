import { NewJob } from '@/core/shop/job';
import { beginJob, listJobs, readJob } from '@/server/db/jobs';
import { body, route } from '@/server/http/route';

export const GET = route(({ db }) => listJobs(db));

export const POST = route(async ({ db, request }) =>
  readJob(db, await beginJob(db, await body(request, NewJob))),
);
