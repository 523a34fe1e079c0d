import { JobsAct } from '@/core/shop/jobs-act';
import { body, route } from '@/server/http/route';
import { actOnJobs } from '@/server/record/act-on-jobs';

/** One act on several jobs. */
export const POST = route(async ({ db, request }) => actOnJobs(db, await body(request, JobsAct)));
