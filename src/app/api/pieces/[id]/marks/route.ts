import { NewMark } from '@/core/shop/comparing';
import { addMark } from '@/server/db/comparing';
import { body, numberFrom, route } from '@/server/http/route';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  addMark(db, numberFrom(params.id), await body(request, NewMark)),
);
