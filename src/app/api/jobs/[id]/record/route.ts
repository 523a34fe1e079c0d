import { numberFrom, route } from '@/server/http/route';
import { readRecord } from '@/server/record/read-record';

/** All that is known of a job. */
export const GET = route<{ id: string }>(({ db, params }) => readRecord(db, numberFrom(params.id)));
