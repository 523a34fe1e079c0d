import { writeFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { entryOf, parentPid } from '../entry';
import type { Limits } from './limits';
import { CPU, cpuTime, MEMORY, type Watched } from './watched';

/** What is asked of a process. */
export interface Asked<T> {
  task: T;
  limits: Limits;
}

/** What it answers: what came of the task, or that something broke, after which it is not to be used again. */
export type Told<A> = { ok: true; answer: A; memory: number } | { ok: false; broke: string };

/**
 * Starts the thread that ends this process where it goes over what it may use, or whoever started it has gone.
 * @param grace milliseconds that it has to end by itself in the latter case
 * @returns what it may use, see `Watched`; any amount until that is set
 */
export function startWatch({ grace }: { grace: number }): Float64Array {
  const shared = new SharedArrayBuffer(16);
  const watched: Watched = { shared, parent: parentPid(), grace };
  new Worker(entryOf('server/sandbox/watch'), { workerData: watched }).unref();
  return new Float64Array(shared).fill(Infinity);
}

/**
 * Does tasks one after the other for the process that started this one, within the limits of each. Whatever
 * it throws means that it is not sound any more.
 */
export function serve<T, A>(work: (task: T, limits: Limits) => Promise<A>): void {
  // Where memory runs out all the same, the system is to choose this process.
  try {
    writeFileSync('/proc/self/oom_score_adj', '1000');
  } catch {
    // other systems have no such file
  }
  const allowed = startWatch({ grace: 0 });
  const tell = (told: Told<A>) => process.send!(told);
  process.on('message', ({ task, limits }: Asked<T>) => {
    allowed[MEMORY] = limits.memory;
    allowed[CPU] = cpuTime() + limits.cpu;
    work(task, limits)
      .then(
        (answer) => tell({ ok: true, answer, memory: process.memoryUsage.rss() }),
        (error: unknown) => tell({ ok: false, broke: String((error as Error)?.stack ?? error) }),
      )
      .finally(() => allowed.fill(Infinity));
  });
  process.on('disconnect', () => process.exit(0));
}
