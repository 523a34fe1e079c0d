import { readFileSync } from 'node:fs';

/** How many processes the system ended for lack of memory; 0 where it doesn't say. */
function endedForMemory(): number {
  try {
    return Number(/^oom_kill (\d+)$/m.exec(readFileSync('/proc/vmstat', 'utf8'))?.[1] ?? 0);
  } catch {
    return 0;
  }
}

/**
 * Tells whether a process died of what it did, or somebody ended it. Memory that ran out shows as a kill like
 * any other, but the system counts those.
 */
export function diedOfItself(
  count: () => number = endedForMemory,
): (code: number | null, signal: string | null) => boolean {
  let before = count();
  return (code, signal) => {
    const now = count();
    const outOfMemory = now > before;
    before = now;
    if (signal === 'SIGKILL') return outOfMemory;
    return signal !== null ? !['SIGTERM', 'SIGINT', 'SIGHUP'].includes(signal) : code !== 0;
  };
}
