import { fork, spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { entryOf } from '../entry';
import { filteredSvg } from '../testing/hostile';
import type { Limits } from './limits';

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

  it.each<[string, Limits, string]>([
    ['memory', { memory: 20e6, cpu: 60_000, time: 60_000 }, 'SIGUSR2'],
    ['CPU', { memory: 2e9, cpu: 300, time: 60_000 }, 'SIGALRM'],
  ])('ends by a signal of its own where it goes over its %s', async (_, limits, signal) => {
    const folder = await mkdtemp(join(tmpdir(), 'lontano-watch-'));
    const file = join(folder, 'filter.svg');
    await writeFile(file, filteredSvg());
    const child = start(process.pid);
    const ended = gone(child);
    const task = { file, name: 'filter.svg', page: 1, raw: `${file}.raw`, thumbnail: null };
    child.send({ task: { do: 'decode', task }, limits });
    expect(await ended).toBe(signal);
    await rm(folder, { recursive: true });
  });
});
