import { NewBrought } from '@/core/shop/comparing';
import { bring } from '@/server/db/comparing';
import { body, numberFrom, route } from '@/server/http/route';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  bring(db, numberFrom(params.id), await body(request, NewBrought)),
);
