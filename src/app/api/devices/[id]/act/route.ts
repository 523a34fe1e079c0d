import { ActRequest } from '@/core/device/protocol';
import { listDevices } from '@/server/db/devices';
import { actAt } from '@/server/devices/meet';
import { body, numberFrom, route } from '@/server/http/route';

/** Says to a device that somebody cleared its jam, loaded it, and so on. */
export const POST = route<{ id: string }>(async ({ db, request, params }) => {
  await actAt(db, numberFrom(params.id), await body(request, ActRequest));
  return listDevices(db);
});
