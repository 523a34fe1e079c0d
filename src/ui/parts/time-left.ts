import { formatSeconds } from '@/core/measure/format';
import type { Run } from '@/core/shop/job';

/** Time that a running run still needs, from how fast it went so far. */
export function timeLeft(run: Run): string {
  if (!run.startedAt || run.progress < 0.02) return 'starting';
  const spent = (Date.now() - run.startedAt) / 1000;
  return `${formatSeconds((spent / run.progress) * (1 - run.progress))} left`;
}

/** An estimate: ≈0:14. */
export const aboutSeconds = (seconds: number): string => `≈${formatSeconds(Math.max(1, seconds))}`;
