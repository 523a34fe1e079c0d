import { formatSeconds, formatTimes } from '@/core/measure/format';
import { secondsLeft } from '@/core/render/cost';
import { estimate, type Estimate, type Throughput } from '@/core/render/throughput';
import type { Task } from '@/core/shop/task';
import { say } from '@/core/words/say';

/** Time that a task which runs still needs, by the estimate at first, and then by how fast it goes. */
export function timeLeft(task: Task, throughput: Throughput | undefined): string {
  const { startedAt, progress } = task;
  if (!startedAt || !throughput) return say`starting`;
  const spent = (Date.now() - startedAt) / 1000;
  const { likely } = expectedSeconds(task, throughput);
  return say`${formatSeconds(secondsLeft(progress, spent, likely))} left`;
}

/** A sheet's crops are small: it takes some seconds, whatever it is of. */
const SHEET_SECONDS: Estimate = { least: 5, likely: 10, most: 20 };

/** Seconds that a task is expected to take. */
export const expectedSeconds = (task: Task, throughput: Throughput): Estimate =>
  task.kind === 'render' ? estimate(task.payload.recipe, throughput) : SHEET_SECONDS;

/** An estimate: 6–10 s. */
export const estimateWords = ({ least, most }: Estimate): string => formatTimes(least, most);
