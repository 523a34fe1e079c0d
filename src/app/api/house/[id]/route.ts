import { HouseChange } from '@/core/house/house-recipe';
import { changeHouse, deleteHouse, readHouse } from '@/server/db/house';
import { body, numberFrom, route } from '@/server/http/route';

interface Params {
  id: string;
}

export const GET = route<Params>(({ db, params }) => readHouse(db, numberFrom(params.id)));

/** Makes a new version of it. */
export const PATCH = route<Params>(async ({ db, request, params }) =>
  changeHouse(db, numberFrom(params.id), await body(request, HouseChange)),
);

/** Takes it off the list. */
export const DELETE = route<Params>(({ db, params }) => deleteHouse(db, numberFrom(params.id)));
