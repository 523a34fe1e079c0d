import { NewDevice } from '@/core/shop/device';
import { listDevices } from '@/server/db/devices';
import { meetDevice } from '@/server/devices/meet';
import { body, route } from '@/server/http/route';

/** The shop's devices, and how they stand. */
export const GET = route(({ db }) => listDevices(db));

/** Adds one that listens on this machine. */
export const POST = route(async ({ db, request }) => {
  await meetDevice(db, await body(request, NewDevice));
  return listDevices(db);
});
