import { readPiece } from '@/server/db/pieces';
import { numberFrom, route } from '@/server/http/route';

/** A picture of a job, as it is now. */
export const GET = route<{ id: string }>(({ db, params }) => readPiece(db, numberFrom(params.id)));
