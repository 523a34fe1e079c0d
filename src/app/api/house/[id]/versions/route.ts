import { versionsOfHouse } from '@/server/db/house';
import { numberFrom, route } from '@/server/http/route';

/** All its versions, the newest first. */
export const GET = route<{ id: string }>(({ db, params }) =>
  versionsOfHouse(db, numberFrom(params.id)),
);
