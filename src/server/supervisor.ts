import { fork, spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { refreshBoard } from './db/board';
import { database } from './db/connection';
import { entryOf } from './entry';
import { sweepLeftovers } from './files/sweep';

/**
 * Starts the web server and the process of tasks, starts the latter again when it dies, and ends
 * both when it is ended itself.
 */
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const port = process.env.PORT ?? '4310';
const host = process.env.HOST ?? '127.0.0.1';
const RESTART_MS = 500;

process.env.LONTANO_ROOT ??= here('../..');

// Migrations run once, the board is made ready, and leftovers are swept, before two processes work in the data folder.
const db = await database();
// A row that can't be read must not keep the shop closed.
await refreshBoard(db).catch((error: unknown) => console.error(error));
await db.destroy();
await sweepLeftovers();

let ending = false;
let tasks: ChildProcess;

function startTasks(): void {
  const { file, execArgv } = entryOf('server/tasks/task-process');
  tasks = fork(file, {
    execArgv,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  tasks.on('exit', () => {
    if (!ending) setTimeout(startTasks, RESTART_MS);
  });
}

const web = spawn(
  process.execPath,
  [here('../../node_modules/next/dist/bin/next'), 'start', '-H', host, '-p', port],
  { stdio: 'inherit', cwd: here('../..') },
);

function end(code: number): void {
  if (ending) return;
  ending = true;
  web.kill('SIGTERM');
  tasks.kill('SIGTERM');
  setTimeout(() => process.exit(code), 300);
}

startTasks();
web.on('exit', (code) => end(code ?? 1));
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.on(signal, () => end(0));
