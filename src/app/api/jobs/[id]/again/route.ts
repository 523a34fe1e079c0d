import { OrderAgain } from '@/core/shop/order-again';
import { orderAgain } from '@/server/db/again';
import { readJob } from '@/server/db/jobs';
import { body, numberFrom, route } from '@/server/http/route';

/** Orders it again, at the same size or another. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  readJob(db, await orderAgain(db, numberFrom(params.id), await body(request, OrderAgain))),
);
