import { NewJob } from '@/core/shop/job';
import { propose } from '@/core/treatment/propose';
import { beginJob, listJobs, readJob } from '@/server/db/jobs';
import { findOriginal } from '@/server/db/originals';
import { body, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

export const GET = route(({ db }) => listJobs(db));

export const POST = route(async ({ db, request }) => {
  const job = await body(request, NewJob);
  const original = await findOriginal(db, job.digest);
  if (!original) throw new Problem('missing', `${job.fileName} was not taken in yet.`);
  return readJob(db, await beginJob(db, job, propose(original.findings, job.paper, job.distance)));
});
