import { fork } from 'node:child_process';
import { childEnvironment, entryOf } from '../entry';

export type Chore = 'clear' | 'audit' | 'measure';

/** Does a chore in a process of its own. @returns when that is over, whether it came to its end */
export const startChore = (chore: Chore): Promise<boolean> =>
  new Promise((resolve) => {
    const child = fork(entryOf('server/housekeeping/housekeeping-process'), [chore], {
      env: childEnvironment(),
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    child.on('error', () => resolve(false));
    child.on('exit', (code) => resolve(code === 0));
    // It keeps nobody from ending.
    child.unref();
    child.channel?.unref();
  });
