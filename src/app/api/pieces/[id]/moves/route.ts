import { PieceMove } from '@/core/shop/job';
import { movePiece } from '@/server/db/pieces';
import { body, numberFrom, route } from '@/server/http/route';

/** Undo, redo, and jumps in the list of changes. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  movePiece(db, numberFrom(params.id), await body(request, PieceMove)),
);
