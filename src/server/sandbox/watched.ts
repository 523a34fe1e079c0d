/** What a process and the thread that watches it share. */
export interface Watched {
  /** two numbers: see MEMORY and CPU */
  shared: SharedArrayBuffer;
  /** number of the process that started this one */
  parent: number;
  /** milliseconds that this process has to end by itself after that one has gone */
  grace: number;
}

/** Places in the shared numbers: how much resident memory, in bytes, and up to which CPU time, in milliseconds. */
export const MEMORY = 0;
export const CPU = 1;

/**
 * Signals by which a process ends that went over what it may use. Nothing else sends them, so whoever waits
 * for it knows why.
 */
export const OVER = { memory: 'SIGUSR2', time: 'SIGALRM' } as const;

/** CPU time of all threads of this process, in milliseconds. */
export function cpuTime(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}
