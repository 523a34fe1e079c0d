import { HouseDraft } from '@/core/house/house-recipe';
import { addHouse, listHouse } from '@/server/db/house';
import { body, route } from '@/server/http/route';

/** All house recipes, with what became of pictures that were treated by them. */
export const GET = route(({ db }) => listHouse(db));

/** Keeps a new one. */
export const POST = route(async ({ db, request }) => addHouse(db, await body(request, HouseDraft)));
