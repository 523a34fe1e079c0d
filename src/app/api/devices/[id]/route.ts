import { listDevices, removeDevice, returnDevice } from '@/server/db/devices';
import { numberFrom, route } from '@/server/http/route';

interface Params {
  id: string;
}

/** Takes it off the list. */
export const DELETE = route<Params>(async ({ db, params }) => {
  await removeDevice(db, numberFrom(params.id));
  return listDevices(db);
});

/** Puts one that was taken off back on the list. */
export const PUT = route<Params>(async ({ db, params }) => {
  await returnDevice(db, numberFrom(params.id));
  return listDevices(db);
});
