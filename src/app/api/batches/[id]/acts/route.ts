import { ItemsAct } from '@/core/batch/batch';
import { actOnItems } from '@/server/batch/items';
import { body, numberFrom, route } from '@/server/http/route';

/** One act on some of its pictures. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  actOnItems(db, numberFrom(params.id), await body(request, ItemsAct)),
);
