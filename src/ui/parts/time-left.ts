import { formatSeconds } from '@/core/measure/format';
import { secondsLeft } from '@/core/render/cost';
import { estimate, type Throughput } from '@/core/shop/lists';
import type { Task } from '@/core/shop/task';

/** Time that a task which runs still needs, by the estimate at first, and then by how fast it goes. */
export function timeLeft(task: Task, throughput: Throughput | undefined): string {
  const { startedAt, progress } = task;
  if (!startedAt || !throughput) return 'starting';
  const spent = (Date.now() - startedAt) / 1000;
  const expected = expectedSeconds(task, throughput);
  return `${formatSeconds(secondsLeft(progress, spent, expected))} left`;
}

/** A sheet's crops are small: it takes some seconds, whatever it is of. */
const SHEET_SECONDS = 10;

/** Seconds that a task is expected to take. */
export const expectedSeconds = (task: Task, throughput: Throughput): number =>
  task.kind === 'render' ? estimate(task.payload.recipe, throughput) : SHEET_SECONDS;

/** An estimate: ≈0:14. */
export const aboutSeconds = (seconds: number): string => `≈${formatSeconds(Math.max(1, seconds))}`;
