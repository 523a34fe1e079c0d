import type { Task, TaskKind } from '@/core/shop/task';
import type { Doing, Done } from './doing';
import { doProof } from './proof-task';
import { doRender } from './render-task';
import { doSheet } from './sheet-task';

type Does<T extends Task> = (task: T, doing: Doing) => Promise<Done<T>>;

/** How each kind of task is done. A new kind is a line here, and its payload in core/shop/task.ts. */
const DOES: { [K in TaskKind]: Does<Extract<Task, { kind: K }>> } = {
  render: doRender,
  sheet: doSheet,
  proof: doProof,
};

/** Does a task, whichever its kind. */
export const doAsItsKind = (task: Task, doing: Doing): Promise<Done<Task>> =>
  (DOES[task.kind] as Does<Task>)(task, doing);
