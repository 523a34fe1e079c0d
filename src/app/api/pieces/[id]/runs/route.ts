import { RunRequest } from '@/core/shop/job';
import { body, numberFrom, route } from '@/server/http/route';
import { requestRun } from '@/server/runs/request';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  requestRun(db, numberFrom(params.id), await body(request, RunRequest)),
);
