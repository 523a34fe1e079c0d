import { workerData } from 'node:worker_threads';
import { CPU, cpuTime, MEMORY, OVER, type Watched } from './watched';

/**
 * Watches its own process from a thread of its own, and ends it whole where it goes over what it may use: threads
 * of native code end in no other way. Also where whoever started it has gone.
 */
const LOOK_MS = 25;
const { shared, parent, grace } = workerData as Watched;
const allowed = new Float64Array(shared);
const pause = new Int32Array(new SharedArrayBuffer(4));

let orphanSince: number | null = null;
for (;;) {
  Atomics.wait(pause, 0, 0, LOOK_MS);
  if (process.ppid !== parent) {
    orphanSince ??= performance.now();
    if (performance.now() - orphanSince >= grace) process.kill(process.pid, 'SIGKILL');
  }
  if (process.memoryUsage.rss() > allowed[MEMORY]!) process.kill(process.pid, OVER.memory);
  if (cpuTime() > allowed[CPU]!) process.kill(process.pid, OVER.time);
}
