import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { Confined } from './confined';
import { LIMITS } from './limits';
import { Pool } from './pool';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-confined-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const program = async (text: string): Promise<string> => {
  const file = join(folder, 'program.mjs');
  await writeFile(file, text);
  return file;
};

const ended = (pid: number) => () => {
  try {
    process.kill(pid, 0);
    return false;
  } catch {
    return true;
  }
};

it('a process that hears nothing any more is ended, and not asked again', async () => {
  const deaf = await program(`process.disconnect(); setInterval(() => {}, 1000);`);
  const process_ = new Confined<string, string>(deaf, 0);
  const { pid } = process_;
  await expect
    .poll(() => process_.run('?', LIMITS.pixels.short).catch((error: Error) => error.message))
    .toMatch(/no answer: killed/);
  expect(process_.usable).toBe(false);
  await expect.poll(ended(pid!)).toBe(true);
});

it('a task outlives processes that go deaf before they are asked', async () => {
  // The first of them hears nothing; those after it answer.
  const once = await program(`
    import { existsSync, writeFileSync } from 'node:fs';
    const mark = ${JSON.stringify(join(folder, 'mark'))};
    if (existsSync(mark)) {
      process.on('message', ({ task }) => process.send({ ok: true, answer: task + '!', memory: 0 }));
    } else {
      writeFileSync(mark, '');
      process.disconnect();
      setInterval(() => {}, 1000);
    }`);
  const pool = new Pool<string, string>(once);
  try {
    pool.warm();
    await expect
      .poll(() => import('node:fs').then(({ existsSync }) => existsSync(join(folder, 'mark'))))
      .toBe(true);
    // Until its channel is known to be closed.
    await new Promise((done) => setTimeout(done, 200));
    await expect(pool.run('here', 'pixels')).resolves.toBe('here!');
  } finally {
    pool.end();
  }
});
