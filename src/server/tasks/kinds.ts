import type { Task, TaskKind } from '@/core/shop/task';
import type { Doing, Done } from './doing';
import { doRender } from './render-task';

/** How each kind of task is done. A new kind is a line here, and its payload in core/shop/task.ts. */
export const DOES: {
  [K in TaskKind]: (
    task: Extract<Task, { kind: K }>,
    doing: Doing,
  ) => Promise<Done<Extract<Task, { kind: K }>>>;
} = {
  render: doRender,
};
