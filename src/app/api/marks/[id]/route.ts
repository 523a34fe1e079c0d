import { MarkChange } from '@/core/shop/comparing';
import { changeMark, removeMark } from '@/server/db/comparing';
import { body, numberFrom, route } from '@/server/http/route';

type Params = { id: string };

export const PATCH = route<Params>(async ({ db, request, params }) =>
  changeMark(db, numberFrom(params.id), await body(request, MarkChange)),
);

export const DELETE = route<Params>(({ db, params }) => removeMark(db, numberFrom(params.id)));
