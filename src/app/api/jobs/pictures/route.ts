import { z } from 'zod';
import { picturesOfJobs } from '@/server/db/jobs';
import { query, route } from '@/server/http/route';

/** Numbers in the database with commas between, as many as one act may be for. */
const Asked = z.object({ jobs: z.string().regex(/^\d{1,9}(,\d{1,9}){0,499}$/) });

/** The pictures of some jobs. */
export const GET = route(({ db, request }) =>
  picturesOfJobs(db, query(request, Asked).jobs.split(',').map(Number)),
);
