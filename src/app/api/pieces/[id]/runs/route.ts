import { RunRequest } from '@/core/shop/job';
import { body, numberFrom, route } from '@/server/http/route';
import { requestRun } from '@/server/tasks/request-run';

export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  requestRun(db, numberFrom(params.id), await body(request, RunRequest)),
);
