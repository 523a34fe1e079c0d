import { readdir, readFile, stat } from 'node:fs/promises';
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Piece, Run } from '@/core/shop/job';
import { testPaper } from '@/core/testing';
import { throughputKey, secondsFor } from '@/core/render/cost';
import { config } from '../config';
import { beginJob, readJob } from '../db/jobs';
import { patchBetween } from '@/core/shop/change';
import { changePiece } from '../db/pieces';
import {
  cancelRun,
  claimRun,
  finishRun,
  LEASE_MS,
  moveRun,
  openRuns,
  readPace,
  readRun,
  reportProgress,
} from '../db/runs';
import { store } from '../files/store';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testPixels, type TestShop } from '../testing/shop';
import { requestRun } from './request';

let shop: TestShop;
let piece: Piece;
let processes: ChildProcess[] = [];

const startProcess = () => {
  const child = fork(fileURLToPath(new URL('./render-process.ts', import.meta.url)), {
    execArgv: ['--import', 'tsx'],
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
    const run = await readRun(shop.db, id);
    if (done(run)) return run;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(
    `the run ${id} did not get there: ${JSON.stringify(await readRun(shop.db, id)).slice(0, 300)}`,
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
    expect((await claimRun(db, 'first'))?.id).toBe(run.id);
    expect(await claimRun(db, 'second')).toBeNull();
    expect(await reportProgress(db, run.id, 'first', 0.4)).toBe('go on');
    await db('runs')
      .where({ id: run.id })
      .update({ lease_until: Date.now() - 1 });
    expect((await claimRun(db, 'second'))?.id).toBe(run.id);
    expect(await reportProgress(db, run.id, 'first', 0.9)).toBe('lost');
    expect(await finishRun(db, run.id, 'first', { state: 'failed', error: 'late' })).toBe(false);
    await cancelRun(db, run.id);
    expect(await reportProgress(db, run.id, 'second', 0.1)).toBe('cancel');
    expect(await finishRun(db, run.id, 'second', { state: 'cancelled' })).toBe(true);
    expect((await readRun(db, run.id)).state).toBe('cancelled');
  });

  it('give a run up that takes its process down again and again', async () => {
    const run = await request();
    for (let attempt = 0; attempt < 3; attempt++) {
      expect((await claimRun(shop.db, `owner ${attempt}`))?.id).toBe(run.id);
      await shop
        .db('runs')
        .where({ id: run.id })
        .update({ lease_until: Date.now() - LEASE_MS });
    }
    expect(await claimRun(shop.db, 'owner 4')).toBeNull();
    expect(await readRun(shop.db, run.id)).toMatchObject({
      state: 'failed',
      error: expect.stringMatching(/given up/),
    });
  });

  it('follow the order of the queue, which can be changed while runs wait', async () => {
    const { db } = shop;
    const [first, second, third] = [await request(), await request(), await request()];
    const order = async () => (await openRuns(db)).map(({ id }) => id);
    expect(await order()).toEqual([first.id, second.id, third.id]);
    await moveRun(db, third.id, first.id);
    expect(await order()).toEqual([third.id, first.id, second.id]);
    await moveRun(db, third.id, second.id);
    expect(await order()).toEqual([first.id, third.id, second.id]);
    await moveRun(db, first.id, null);
    expect(await order()).toEqual([third.id, second.id, first.id]);
    expect((await claimRun(db, 'one'))?.id).toBe(third.id);
    await expect(moveRun(db, third.id, null)).rejects.toThrow(/does not wait any more/);
    await moveRun(db, first.id, third.id);
    expect((await claimRun(db, 'two'))?.id).toBe(second.id);
    for (const [run, owner] of [
      [third, 'one'],
      [second, 'two'],
    ] as const)
      await finishRun(db, run.id, owner, { state: 'cancelled' });
    await cancelRun(db, first.id);
  });

  it('keep their order however often they change places', async () => {
    const { db } = shop;
    const runs = await Promise.all(Array.from({ length: 4 }, () => request()));
    // Of those that were asked for in one moment none shares its rank with another.
    expect(new Set((await openRuns(db)).map(({ rank }) => rank)).size).toBe(4);
    let order = (await openRuns(db)).map(({ id }) => id);
    for (let i = 0; i < 60; i++) {
      const [id, before] = [order.at(-1)!, order[1]!];
      await moveRun(db, id, before);
      order = order.filter((one) => one !== id);
      order.splice(1, 0, id);
      expect((await openRuns(db)).map((run) => run.id)).toEqual(order);
    }
    for (const { id } of runs) await cancelRun(db, id);
  });

  it('tell by finished runs how fast this machine is, for each way to enlarge', async () => {
    const { db } = shop;
    expect(await readPace(db)).toEqual({ overall: 1, ways: {}, measured: false });
    const result = {
      ...{ fileName: 'x', bytes: 1, width: 1, height: 1, ppi: { x: 1, y: 1 }, profile: null },
    };
    for (const seconds of [2, 4, 900]) {
      const run = await request();
      await claimRun(db, 'fast');
      await finishRun(db, run.id, 'fast', { state: 'done', result: { ...result, seconds } });
    }
    const { overall, ways, measured } = await readPace(db);
    const { recipe } = (await openRuns(db))[0] ?? (await request());
    expect(measured).toBe(true);
    // The middle one: neither the quick nor the disturbed run.
    expect(overall).toBeCloseTo(secondsFor(recipe, 1) / 4, 9);
    expect(ways).toEqual({ [throughputKey(recipe)]: overall });
    await db('runs').delete();
  });

  it('end a waiting run at once when it is cancelled', async () => {
    const run = await request();
    expect((await cancelRun(shop.db, run.id)).state).toBe('cancelled');
    expect(await claimRun(shop.db, 'anyone')).toBeNull();
  });
});

describe('the render process', () => {
  it('writes a file that opens elsewhere at the ordered size, with its profile', async () => {
    startProcess();
    const run = await request();
    const done = await until(run.id, over);
    expect(done).toMatchObject({
      state: 'done',
      progress: 1,
      result: {
        width: 2520,
        height: 1680,
        ppi: { x: 160, y: 160 },
        fileName: '0401-wall-east-40cm-160ppi.tif',
      },
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
    expect((await readRun(shop.db, run.id)).state).toBe('running');
    await shop
      .db('runs')
      .where({ id: run.id })
      .update({ lease_until: Date.now() - 1 });
    startProcess();
    startProcess();
    const done = await until(run.id, over);
    expect(done).toMatchObject({ state: 'done', result: { width: 9449, height: 6299 } });
    const [row] = await shop.db('runs').where({ id: run.id });
    expect(row.attempts).toBe(2);
    const files = await readdir(`${shop.folder}/results`);
    expect(files.filter((name) => name.startsWith(run.id))).toEqual([run.id]);
    expect((await stat(store.result(run.id))).size).toBe(done.result!.bytes);
  });

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
    await cancelRun(shop.db, run.id);
    expect((await until(run.id, over)).state).toBe('cancelled');
    const files = await readdir(`${shop.folder}/results`);
    expect(files.filter((name) => name.startsWith(run.id))).toEqual([]);
  });
});

describe('asking for a run', () => {
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
