import { Failure } from '@/core/device/protocol';
import { listDevices } from '@/server/db/devices';
import { failAt } from '@/server/devices/meet';
import { body, numberFrom, route } from '@/server/http/route';

/** Has something go wrong at a stand-in. */
export const POST = route<{ id: string }>(async ({ db, request, params }) => {
  await failAt(db, numberFrom(params.id), await body(request, Failure));
  return listDevices(db);
});
