import { RunMove } from '@/core/shop/job';
import { moveRun } from '@/server/db/runs';
import { body, route } from '@/server/http/route';

/** Gives a waiting run another place in the queue. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  moveRun(db, params.id, (await body(request, RunMove)).before),
);
