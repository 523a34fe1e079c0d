import { PieceChange } from '@/core/shop/job';
import { changePiece } from '@/server/db/pieces';
import { body, numberFrom, route } from '@/server/http/route';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  changePiece(db, numberFrom(params.id), await body(request, PieceChange)),
);
