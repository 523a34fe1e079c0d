import { numberFrom, route } from '@/server/http/route';
import { recordOfAny } from '@/server/record/gone';

/** All that is known of a job. */
export const GET = route<{ id: string }>(({ db, params }) =>
  recordOfAny(db, numberFrom(params.id)),
);
