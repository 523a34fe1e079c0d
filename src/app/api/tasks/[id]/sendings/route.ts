import { SendRequest } from '@/core/shop/sending';
import { requestSend } from '@/server/devices/request-send';
import { body, route } from '@/server/http/route';

/** Sends the file of a run to a device. */
export const POST = route<{ id: string }>(async ({ db, request, params: { id } }) =>
  requestSend(db, id, await body(request, SendRequest)),
);
