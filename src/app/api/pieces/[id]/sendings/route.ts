import { sendingsOfPiece } from '@/server/db/sendings';
import { numberFrom, route } from '@/server/http/route';

/** What of a picture was sent to devices, the newest first. */
export const GET = route<{ id: string }>(({ db, params }) =>
  sendingsOfPiece(db, numberFrom(params.id)),
);
