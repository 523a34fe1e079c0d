import { SheetRequest } from '@/core/shop/sheet';
import { body, numberFrom, route } from '@/server/http/route';
import { requestSheet } from '@/server/tasks/request-sheet';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  requestSheet(db, numberFrom(params.id), await body(request, SheetRequest)),
);
