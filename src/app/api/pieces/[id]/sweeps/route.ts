import { Sweep } from '@/core/shop/comparing';
import { keepSweep } from '@/server/db/comparing';
import { body, numberFrom, route } from '@/server/http/route';

export const PUT = route<{ id: string }>(async ({ db, request, params }) =>
  keepSweep(db, numberFrom(params.id), await body(request, Sweep)),
);
