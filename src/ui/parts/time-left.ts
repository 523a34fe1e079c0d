import { formatSeconds } from '@/core/measure/format';
import { secondsLeft } from '@/core/render/cost';
import { estimate, type Throughput } from '@/core/shop/lists';
import type { Task } from '@/core/shop/task';

/** Time that a task which runs still needs, by the estimate at first, and then by how fast it goes. */
export function timeLeft(
  { startedAt, progress, payload }: Task,
  throughput: Throughput | undefined,
): string {
  if (!startedAt || !throughput) return 'starting';
  const spent = (Date.now() - startedAt) / 1000;
  return `${formatSeconds(secondsLeft(progress, spent, estimate(payload.recipe, throughput)))} left`;
}

/** An estimate: ≈0:14. */
export const aboutSeconds = (seconds: number): string => `≈${formatSeconds(Math.max(1, seconds))}`;
