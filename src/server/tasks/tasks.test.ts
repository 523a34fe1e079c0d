import { readdir, readFile, stat } from 'node:fs/promises';
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Piece } from '@/core/shop/job';
import { Run } from '@/core/shop/task';
import { testPaper } from '@/core/testing';
import { runCost, throughputOf } from '@/core/render/throughput';
import { config } from '../config';
import { entryOf } from '../entry';
import { beginJob, readJob } from '../db/jobs';
import { patchBetween } from '@/core/shop/change';
import { readThroughput } from '../db/throughput';
import { changePiece, movePiece } from '../db/pieces';
import {
  cancelTask,
  claimTask,
  finishTask,
  giveAllBack,
  giveBack,
  lastTaskChange,
  LEASE_MS,
  moveTask,
  openTasks,
  queueTask,
  readTask,
  reportProgress,
  tasksChangedAfter,
} from '../db/tasks';
import { digestOfFile } from '../files/digest';
import { store } from '../files/store';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testPixels, type TestShop } from '../testing/shop';
import { endThreads } from '../render/threads';
import { requestRun } from './request-run';
import { doTask, REPORT_MS } from './task-process';

let shop: TestShop;
let piece: Piece;
let processes: ChildProcess[] = [];

const startProcess = () => {
  const child = fork(entryOf('server/tasks/task-process'), {
    env: { ...process.env, LONTANO_DATA: config().data },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  processes.push(child);
  return child;
};

const endProcesses = () => {
  processes.forEach((child) => child.kill('SIGKILL'));
  processes = [];
};

async function until(id: string, done: (run: Run) => boolean): Promise<Run> {
  for (let tries = 0; tries < 1200; tries++) {
    const run = Run.parse(await readTask(shop.db, id));
    if (done(run)) return run;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(
    `the run ${id} did not get there: ${JSON.stringify(await readTask(shop.db, id)).slice(0, 300)}`,
  );
}

const over = (run: Run) => !['queued', 'running'].includes(run.state);

const request = async (change?: (work: Piece['work']) => void) => {
  if (change) {
    const work = structuredClone(piece.work);
    change(work);
    const patch = patchBetween(piece.work, work);
    piece = await changePiece(shop.db, piece.id, { revision: piece.revision, label: 'x', patch });
  }
  return requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'a' });
};

let asked = 0;
/** Asks for a run that no other one is equal to. */
const requestAnother = () => request((work) => (work.trials[0]!.ppi = 60 + ++asked));

beforeAll(async () => {
  shop = await openTestShop();
  const jpeg = await testPixels(240, 160).withIccProfile('p3').jpeg({ quality: 30 }).toBuffer();
  const { digest, fileName } = await takeIn(shop.db, streamOf(jpeg), 'p.jpg');
  const paper = testPaper({ width: { value: 40, unit: 'cm' } });
  const job = {
    title: 'Wall / "east"',
    customer: '',
    due: null,
    pictures: [{ digest, fileName, page: 1 }],
    paper,
    distance: 2,
    device: null,
    material: null,
  };
  piece = (await readJob(shop.db, await beginJob(shop.db, job))).piece;
});
afterAll(async () => {
  endProcesses();
  await shop.close();
});

describe('claims', () => {
  it('give every run one owner, and lapse when nothing is heard', async () => {
    const run = await request();
    const { db } = shop;
    expect((await claimTask(db, 'first'))?.id).toBe(run.id);
    expect(await claimTask(db, 'second')).toBeNull();
    expect(await reportProgress(db, run.id, 'first', 0.4)).toBe('go on');
    await db('tasks')
      .where({ id: run.id })
      .update({ lease_until: Date.now() - 1 });
    expect((await claimTask(db, 'second'))?.id).toBe(run.id);
    expect(await reportProgress(db, run.id, 'first', 0.9)).toBe('lost');
    expect(await finishTask(db, run.id, 'first', { state: 'failed', error: 'late' })).toBe(false);
    await cancelTask(db, run.id);
    expect(await reportProgress(db, run.id, 'second', 0.1)).toBe('cancel');
    expect(await finishTask(db, run.id, 'second', { state: 'cancelled' })).toBe(true);
    expect((await readTask(db, run.id)).state).toBe('cancelled');
  });

  it('lapse too where the clock was set back since: nobody waits for days', async () => {
    const run = await request();
    const { db } = shop;
    expect((await claimTask(db, 'before'))?.id).toBe(run.id);
    await db('tasks')
      .where({ id: run.id })
      .update({ lease_until: Date.now() + 48 * 3_600_000 });
    expect((await claimTask(db, 'after'))?.id).toBe(run.id);
    expect(await reportProgress(db, run.id, 'before', 0.5)).toBe('lost');
    expect(await finishTask(db, run.id, 'after', { state: 'cancelled' })).toBe(true);
  });

  it('give a run up that takes its process down again and again', async () => {
    const run = await request();
    for (let attempt = 0; attempt < 3; attempt++) {
      expect((await claimTask(shop.db, `owner ${attempt}`))?.id).toBe(run.id);
      await shop
        .db('tasks')
        .where({ id: run.id })
        .update({ lease_until: Date.now() - LEASE_MS });
    }
    expect(await claimTask(shop.db, 'owner 4')).toBeNull();
    expect(await readTask(shop.db, run.id)).toMatchObject({
      state: 'failed',
      error: expect.stringMatching(/given up/),
    });
  });

  it('that are given back count against a task only where its process died of it', async () => {
    const { db } = shop;
    const run = await request();
    const attempts = async () =>
      (await db('tasks').where({ id: run.id }).first('attempts')).attempts;
    for (let stop = 0; stop < 5; stop++) {
      expect((await claimTask(db, `owner ${stop}`))?.id).toBe(run.id);
      if (stop % 2) await giveAllBack(db, { died: false });
      else await giveBack(db, run.id, `owner ${stop}`);
      expect(await readTask(db, run.id)).toMatchObject({ state: 'queued', error: null });
    }
    expect(await attempts()).toBe(0);
    await claimTask(db, 'mine');
    await giveBack(db, run.id, 'another');
    expect((await readTask(db, run.id)).state).toBe('running');
    await giveAllBack(db, { died: true });
    expect(await attempts()).toBe(1);
    await claimTask(db, 'mine');
    await cancelTask(db, run.id);
    await giveAllBack(db, { died: true });
    expect(await readTask(db, run.id)).toMatchObject({ state: 'cancelled', error: null });
  });

  it('are told by the number of a change, whatever the clock says', async () => {
    const { db } = shop;
    const before = await lastTaskChange(db);
    const clock = vi.spyOn(Date, 'now').mockReturnValue(Date.now() - 86_400_000);
    const run = await request();
    clock.mockRestore();
    const { events, last } = await tasksChangedAfter(db, before);
    expect(events).toEqual([expect.objectContaining({ id: run.id, state: 'queued' })]);
    await claimTask(db, 'mine');
    const now = await tasksChangedAfter(db, last);
    expect(now.events).toEqual([expect.objectContaining({ id: run.id, state: 'running' })]);
    expect(await tasksChangedAfter(db, now.last)).toEqual({ events: [], last: now.last });
    await finishTask(db, run.id, 'mine', { state: 'cancelled' });
  });

  it('follow the order of the queue, which can be changed while runs wait', async () => {
    const { db } = shop;
    const [first, second, third] = [
      await requestAnother(),
      await requestAnother(),
      await requestAnother(),
    ];
    const order = async () => (await openTasks(db)).map(({ id }) => id);
    expect(await order()).toEqual([first.id, second.id, third.id]);
    await moveTask(db, third.id, first.id);
    expect(await order()).toEqual([third.id, first.id, second.id]);
    await moveTask(db, third.id, second.id);
    expect(await order()).toEqual([first.id, third.id, second.id]);
    await moveTask(db, first.id, null);
    expect(await order()).toEqual([third.id, second.id, first.id]);
    expect((await claimTask(db, 'one'))?.id).toBe(third.id);
    await expect(moveTask(db, third.id, null)).rejects.toThrow(/does not wait any more/);
    await moveTask(db, first.id, third.id);
    expect((await claimTask(db, 'two'))?.id).toBe(second.id);
    for (const [run, owner] of [
      [third, 'one'],
      [second, 'two'],
    ] as const)
      await finishTask(db, run.id, owner, { state: 'cancelled' });
    await cancelTask(db, first.id);
  });

  it('keep their order however often they change places', async () => {
    const { db } = shop;
    const runs: Run[] = [];
    for (let i = 0; i < 4; i++) runs.push(await requestAnother());
    // Of those that were asked for in one moment none shares its rank with another.
    expect(new Set((await openTasks(db)).map(({ rank }) => rank)).size).toBe(4);
    let order = (await openTasks(db)).map(({ id }) => id);
    for (let i = 0; i < 60; i++) {
      const [id, before] = [order.at(-1)!, order[1]!];
      await moveTask(db, id, before);
      order = order.filter((one) => one !== id);
      order.splice(1, 0, id);
      expect((await openTasks(db)).map((run) => run.id)).toEqual(order);
    }
    for (const { id } of runs) await cancelTask(db, id);
  });

  it('tell how fast this machine is, the last one first', async () => {
    const { db } = shop;
    expect(await readThroughput(db)).toEqual(throughputOf([]));
    const result = {
      ...{ width: 1, height: 1, ppi: { x: 1, y: 1 }, profile: null, resumed: false },
    };
    for (const seconds of [2, 4, 900]) {
      const run = await request();
      await claimTask(db, 'fast');
      await finishTask(db, run.id, 'fast', {
        ...{ state: 'done', files: [] },
        result: { ...result, seconds },
      });
    }
    const { recipe } = Run.parse((await openTasks(db))[0] ?? (await request())).payload;
    const finished = [900, 4, 2].map((seconds) => ({ cost: runCost(recipe), seconds }));
    expect(await readThroughput(db)).toEqual(throughputOf(finished));
    await db('tasks').delete();
  });

  it('end a waiting run at once when it is cancelled', async () => {
    const run = await request();
    expect((await cancelTask(shop.db, run.id)).state).toBe('cancelled');
    expect(await claimTask(shop.db, 'anyone')).toBeNull();
  });
});

describe('tasks that belong to another', () => {
  it('are cancelled with it, whether they wait or run', async () => {
    const { db } = shop;
    const parent = await request();
    const { kind, pieceId, payload } = parent;
    const child = await queueTask(db, {
      ...{ id: 'child-of-it', kind, pieceId, payload, parent: parent.id },
    });
    const other = await requestAnother();
    expect((await claimTask(db, 'mine'))?.id).toBe(parent.id);
    await cancelTask(db, parent.id);
    expect(await reportProgress(db, parent.id, 'mine', 0.5)).toBe('cancel');
    expect(await readTask(db, child.id)).toMatchObject({ state: 'cancelled', parent: parent.id });
    expect((await readTask(db, other.id)).state).toBe('queued');
    await finishTask(db, parent.id, 'mine', { state: 'cancelled' });
    await cancelTask(db, other.id);
  });
});

describe('a busy database', () => {
  it('does not end a run whose reports it refuses for a while', async () => {
    const run = await request((work) => (work.trials[0]!.ppi = 120));
    const { db } = shop;
    await claimTask(db, 'patient');
    let refused = 0;
    const until = Date.now() + 3 * REPORT_MS;
    const busy = new Proxy(db, {
      apply: (target, _, [table]: [string]) => {
        if (table !== 'tasks' || Date.now() > until) return target(table);
        refused++;
        throw new Error('SQLITE_BUSY: database is locked');
      },
    });
    const quiet = vi.spyOn(console, 'error').mockImplementation(() => {});
    await doTask(busy, run, 'patient');
    quiet.mockRestore();
    await endThreads();
    expect(refused).toBeGreaterThan(0);
    expect(await readTask(db, run.id)).toMatchObject({ state: 'done', progress: 1 });
  });

  it('takes the writes of two processes at once, and refuses none', async () => {
    const { db } = shop;
    const other = fork(fileURLToPath(new URL('../testing/keep-writing.ts', import.meta.url)), {
      execArgv: ['--import', 'tsx'],
      env: { ...process.env, LONTANO_DATA: config().data },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    processes.push(other);
    await new Promise((resolve) => other.once('message', resolve));
    const runs = [await requestAnother(), await requestAnother()];
    for (let i = 0; i < 60; i++) {
      await requestAnother().then((run) => cancelTask(db, run.id));
      await moveTask(db, runs[i % 2]!.id, runs[(i + 1) % 2]!.id);
      await movePiece(db, piece.id, { revision: piece.revision, to: piece.history[0]!.id });
      piece = (await readJob(db, piece.jobId)).piece;
    }
    const wrote = new Promise<number>((resolve) => other.once('message', resolve));
    other.send('how often?');
    expect(await wrote).toBeGreaterThan(60);
    endProcesses();
    for (const run of runs) await cancelTask(db, run.id);
    expect(piece.revision).toBeGreaterThan(120);
  });
});

describe('the render process', () => {
  it('writes a file that opens elsewhere at the ordered size, with its profile', async () => {
    startProcess();
    const run = await request((work) => (work.trials[0]!.ppi = 160));
    const done = await until(run.id, over);
    expect(done).toMatchObject({
      state: 'done',
      progress: 1,
      result: {
        width: 2520,
        height: 1680,
        ppi: { x: 160, y: 160 },
      },
      artifacts: [{ role: 'result', fileName: '0401-wall-east-40cm-160ppi.tif' }],
    });
    const metadata = await sharp(store.result(run.id)).metadata();
    expect(metadata).toMatchObject({ format: 'tiff', width: 2520, height: 1680, density: 160 });
    const original = await shop.db('pages').first('profile');
    expect(metadata.icc).toEqual(original.profile);
  });

  it.each(['jpeg', 'png'] as const)('writes the same pixels and tags as %s', async (format) => {
    const run = await request((work) =>
      Object.assign(work.trials[0]!.output, { format, quality: 98 }),
    );
    const done = await until(run.id, over);
    expect(done.state).toBe('done');
    expect(Math.abs(done.result!.ppi.x - 160)).toBeLessThan(0.02);
    const metadata = await sharp(store.result(run.id)).metadata();
    expect(metadata).toMatchObject({ format, width: 2520, density: 160 });
    const original = await shop.db('pages').first('profile');
    expect(metadata.icc).toEqual(original.profile);
  });

  it('loses and doubles nothing when it is killed in the middle of a run', async () => {
    const run = await request((work) => {
      work.trials[0]!.ppi = 600;
      work.trials[0]!.output.format = 'tiff';
    });
    await until(run.id, (now) => now.progress > 0.05);
    endProcesses();
    expect((await readTask(shop.db, run.id)).state).toBe('running');
    await shop
      .db('tasks')
      .where({ id: run.id })
      .update({ lease_until: Date.now() - 1 });
    startProcess();
    startProcess();
    const done = await until(run.id, over);
    expect(done).toMatchObject({ state: 'done', result: { width: 9449, height: 6299 } });
    const [row] = await shop.db('tasks').where({ id: run.id });
    expect(row.attempts).toBe(1);
    const files = await readdir(`${shop.folder}/results`);
    expect(files.filter((name) => name.startsWith(run.id))).toEqual([run.id]);
    expect((await stat(store.result(run.id))).size).toBe(done.artifacts[0]!.bytes);
    expect(await digestOfFile(store.result(run.id))).toBe(done.artifacts[0]!.digest);
  });

  it('that is asked to end gives its run back at once, without a mark against it', async () => {
    const run = await request((work) => (work.trials[0]!.ppi = 700));
    await until(run.id, (now) => now.progress > 0.05);
    const asked = Date.now();
    const gone = processes.map((child) => new Promise((resolve) => child.once('exit', resolve)));
    processes.forEach((child) => child.kill('SIGTERM'));
    await Promise.all(gone);
    expect(Date.now() - asked).toBeLessThan(3000);
    expect(await shop.db('tasks').where({ id: run.id }).first()).toMatchObject({
      ...{ state: 'queued', attempts: 0, owner: null },
    });
    processes = [];
    startProcess();
    expect((await until(run.id, over)).state).toBe('done');
  });

  it('gives the same bytes whenever it was killed: as it begins, in the middle, while it is read back', async () => {
    const ppi = (work: Piece['work']) => void (work.trials[0]!.ppi = 300);
    const whole = await request(ppi);
    const expected = (await until(whole.id, over)).artifacts[0]!.digest;
    for (const share of [0, 0.5, 0.99]) {
      const run = await request(ppi);
      const before = await until(run.id, (now) => now.state !== 'queued' && now.progress >= share);
      if (over(before)) continue;
      endProcesses();
      await shop
        .db('tasks')
        .where({ id: run.id })
        .update({ lease_until: Date.now() - 1 });
      startProcess();
      const done = await until(run.id, over);
      expect(done).toMatchObject({ error: null, state: 'done', artifacts: [{ digest: expected }] });
      const files = await readdir(`${shop.folder}/results`);
      expect(files.filter((name) => name.startsWith(run.id))).toEqual([run.id]);
    }
  }, 240_000);

  it('gives the same bytes for the same resolved recipe', async () => {
    const bytes = async () => {
      const run = await request((work) => (work.trials[0]!.ppi = 90));
      await until(run.id, over);
      return readFile(store.result(run.id));
    };
    const [first, second] = [await bytes(), await bytes()];
    expect(first.equals(second)).toBe(true);
  });

  it('stops a running run soon after it is cancelled, and leaves no file', async () => {
    const run = await request((work) => (work.trials[0]!.ppi = 900));
    await until(run.id, (now) => now.progress > 0.02);
    await cancelTask(shop.db, run.id);
    expect((await until(run.id, over)).state).toBe('cancelled');
    const files = await readdir(`${shop.folder}/results`);
    expect(files.filter((name) => name.startsWith(run.id))).toEqual([]);
  });
});

describe('asking for a run', () => {
  it('that waits already gives that one, however often and at whatever moment', async () => {
    endProcesses();
    const first = await requestAnother();
    const again = await Promise.all(Array.from({ length: 6 }, () => request()));
    expect(new Set([first, ...again].map(({ id }) => id)).size).toBe(1);
    await cancelTask(shop.db, first.id);
    const after = await request();
    expect(after.id).not.toBe(first.id);
    await cancelTask(shop.db, after.id);
  });

  it('is refused where the piece was changed meanwhile or the print cannot be made', async () => {
    const stale = requestRun(shop.db, piece.id, { revision: piece.revision - 1, trialId: 'a' });
    await expect(stale).rejects.toMatchObject({ kind: 'conflict' });
    await expect(
      requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'z' }),
    ).rejects.toMatchObject({ kind: 'missing' });
    await expect(
      request((work) => (work.paper.width = { value: 90, unit: 'm' })),
    ).rejects.toMatchObject({ kind: 'usage' });
  });
});
