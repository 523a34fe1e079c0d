import { eventsOfJob } from '@/server/db/events';
import { numberFrom, route } from '@/server/http/route';

/** What happened to a job, the newest first. */
export const GET = route<{ id: string }>(({ db, params }) =>
  eventsOfJob(db, numberFrom(params.id)),
);
