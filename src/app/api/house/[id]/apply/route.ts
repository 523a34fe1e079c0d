import { ApplyRequest } from '@/core/house/applying';
import { applyHouse } from '@/server/db/apply-house';
import { readHouse } from '@/server/db/house';
import { body, numberFrom, route } from '@/server/http/route';

/** Begins a trial by it on some pictures. */
export const POST = route<{ id: string }>(async ({ db, request, params }) => {
  const { pieces, author } = await body(request, ApplyRequest);
  return applyHouse(db, await readHouse(db, numberFrom(params.id)), pieces, author);
});
