import { fork, spawn, type ChildProcess } from 'node:child_process';
import { afterEach, describe, expect, it } from 'vitest';
import { entryOf } from '../entry';

let children: ChildProcess[] = [];
afterEach(() => {
  children.forEach((child) => child.kill('SIGKILL'));
  children = [];
});

const gone = (child: ChildProcess) =>
  new Promise<string | null>((resolve) => child.once('exit', (_, signal) => resolve(signal)));

const start = (parent: number) => {
  const child = fork(entryOf('server/codecs/picture-process'), {
    env: { ...process.env, LONTANO_PARENT: String(parent) },
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  children.push(child);
  return child;
};

describe('a watched process', () => {
  it('ends where whoever started it had gone before it came to look', async () => {
    const before = spawn('true');
    await gone(before);
    expect(await gone(start(before.pid!))).toBe('SIGKILL');
  });

  it.each<[string, object, string]>([
    ['memory', { memory: 1e6, cpu: 60_000, time: 60_000 }, 'SIGUSR2'],
    ['CPU', { memory: 2e9, cpu: 1, time: 60_000 }, 'SIGALRM'],
  ])('ends by a signal of its own where it goes over its %s', async (_, limits, signal) => {
    const child = start(process.pid);
    const ended = gone(child);
    const drawing = {
      ...{ file: '/nowhere', name: 'x', page: 1, size: { width: 9, height: 9 }, channels: 3 },
      drawn: { source: { x: 0, y: 0, width: 9, height: 9 }, turn: 0 },
    };
    const cell = { x: 0, y: 0, width: 9, height: 9 };
    // Asked again and again, since what ends at once is never over its limits for long.
    const asking = setInterval(() => {
      if (child.connected)
        child.send({ task: { do: 'draw cell', drawing, cell }, limits }, () => {});
    }, 2);
    const by = await ended;
    clearInterval(asking);
    expect(by).toBe(signal);
  });
});
