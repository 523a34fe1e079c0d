import { TaskMove } from '@/core/shop/task';
import { moveTask } from '@/server/db/tasks';
import { body, route } from '@/server/http/route';

/** Gives a waiting task another place in the queue. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  moveTask(db, params.id, (await body(request, TaskMove)).before),
);
