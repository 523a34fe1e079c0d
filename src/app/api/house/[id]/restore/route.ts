import { restoreHouse } from '@/server/db/house';
import { numberFrom, route } from '@/server/http/route';

/** Brings it back onto the list. */
export const POST = route<{ id: string }>(({ db, params }) =>
  restoreHouse(db, numberFrom(params.id)),
);
