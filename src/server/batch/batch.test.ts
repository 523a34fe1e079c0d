import { fork, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, readlink, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yauzl from 'yauzl';
import type { BatchPlan, ItemsAct } from '@/core/batch/batch';
import { TRIALS } from '@/core/recipe/work';
import { branchTrial } from '@/core/recipe/trials';
import { patchBetween } from '@/core/shop/change';
import { BATCH_PATTERN } from '@/core/output/names';
import { testPaper } from '@/core/testing';
import { config } from '../config';
import { resultsThatCanGo } from '../db/artifacts';
import { DELETED_ROUNDS, deleteJob, purge } from '../db/deleting';
import { beginJob, readJob } from '../db/jobs';
import { changePiece, readPiece } from '../db/pieces';
import { cancelTask } from '../db/tasks';
import { entryOf } from '../entry';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import {
  addBatch,
  changeBatch,
  deleteBatch,
  listBatches,
  readBatch,
  restoreBatch,
} from './batches';
import { batchNews } from './changes';
import { deliverResults } from './deliver';
import { feedBatches } from './feed';
import { actOnItems, addItems } from './items';
import { resultsZip } from './results-zip';
import { itemsNews } from './rows';

let shop: TestShop;
let processes: ChildProcess[] = [];

const cm = (value: number) => ({ value, unit: 'cm' as const });
const PLAN: BatchPlan = {
  ...{ size: { by: 'longest', length: cm(8) }, steps: { by: 'proposed' }, ppi: 100 },
  ...{ file: { format: 'png', quality: 90 }, names: BATCH_PATTERN, folder: null },
};

beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(async () => {
  processes.forEach((child) => child.kill('SIGKILL'));
  await shop.close();
});

let pictures = 0;
/** A job with so many pictures, none like another. */
async function pieces(count: number): Promise<number[]> {
  const taken = [];
  for (let i = 0; i < count; i++) {
    const jpeg = await testJpeg(60 + ++pictures, 40, 70);
    const { digest, fileName } = await takeIn(shop.db, streamOf(jpeg), `dome ${pictures}.jpg`);
    taken.push({ digest, fileName, page: 1 });
  }
  const job = await beginJob(shop.db, {
    ...{ title: 'Monday', customer: '', due: null, distance: 2, device: null, material: null },
    ...{ pictures: taken, paper: testPaper({ width: cm(5) }) },
  });
  return (await readJob(shop.db, job)).pieces.map(({ id }) => id);
}

async function begin(count: number, plan: Partial<BatchPlan> = {}): Promise<number> {
  const { id } = await addBatch(shop.db, { name: 'Forty files', plan: { ...PLAN, ...plan } });
  expect(await addItems(shop.db, id, { pieces: await pieces(count) })).toBe(count);
  return id;
}

const rowsOf = async (batch: number) =>
  (await itemsNews(shop.db, batch, { items: 0, tasks: 0 })).rows.sort(
    (a, b) => a.position - b.position,
  );
const act = (batch: number, wanted: ItemsAct) => actOnItems(shop.db, batch, wanted);

const startProcess = (): ChildProcess => {
  const child = fork(entryOf('server/tasks/task-process'), {
    env: { ...process.env, LONTANO_DATA: config().data },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  processes.push(child);
  return child;
};
const endProcess = async (child: ChildProcess, signal: 'SIGKILL' | 'SIGTERM'): Promise<void> => {
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await ended;
  processes = processes.filter((one) => one !== child);
};
const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Runs it by the process of tasks until it is as is wanted. */
async function until(batch: number, there: (of: Awaited<ReturnType<typeof readBatch>>) => boolean) {
  for (let tries = 0; tries < 600; tries++) {
    const head = await readBatch(shop.db, batch);
    if (there(head)) return head;
    await later(50);
  }
  throw new Error(`not there: ${JSON.stringify((await readBatch(shop.db, batch)).states)}`);
}
const made = (batch: number) => until(batch, ({ state }) => state === 'done');

/** Stands in for the process of tasks where none runs: as if a run had been made, or had failed. */
async function pretend(batch: number, item: number, state: 'done' | 'failed'): Promise<void> {
  const row = (await rowsOf(batch)).find(({ id }) => id === item)!;
  await shop
    .db('tasks')
    .where({ id: row.task })
    .update({
      ...{ state, error: state === 'failed' ? 'No more ink in the world.' : null },
      ...{ started_at: Date.now() - 1000, finished_at: Date.now() },
      change: shop.db.raw('(select max(change) + 1 from tasks)'),
    });
}

describe('a batch', () => {
  it('plans each of its pictures, and those that join later', async () => {
    const batch = await begin(3);
    const rows = await rowsOf(batch);
    expect(rows.map(({ state, revision }) => [state, revision])).toEqual(
      Array(3).fill(['not yet', 1]),
    );
    for (const { facts, piece } of rows) {
      expect(facts).toMatchObject({ ppi: 100, trial: 'As proposed', file: { format: 'png' } });
      expect(facts.pixels!.width).toBe(315);
      const { history } = await readPiece(shop.db, piece);
      expect(history.map(({ label }) => label)).toEqual([
        'Proposed first trial',
        'Batch “Forty files”',
      ]);
    }
    // Brought twice, it is in it once.
    expect(await addItems(shop.db, batch, { pieces: [rows[0]!.piece, ...(await pieces(1))] })).toBe(
      1,
    );
    const head = await readBatch(shop.db, batch);
    expect(head).toMatchObject({ pictures: 4, states: { 'not yet': 4 }, state: 'prepared' });
    expect(head.left!.least).toBeGreaterThan(0);
    expect(head.left!.most).toBeGreaterThanOrEqual(head.left!.least);
    expect((await listBatches(shop.db)).map(({ id }) => id)).toContain(batch);
  });

  it('tells what changed since it was last asked, and no more', async () => {
    const batch = await begin(3);
    const first = await itemsNews(shop.db, batch, { items: 0, tasks: 0 });
    expect((await itemsNews(shop.db, batch, first.known)).rows).toEqual([]);
    const before = await batchNews(shop.db);
    const [one] = first.rows;
    await act(batch, { act: 'judge', items: [one!.id], judgement: 'good' });
    expect((await batchNews(shop.db)).last).toBeGreaterThan(before.last);
    const news = await itemsNews(shop.db, batch, first.known);
    expect(news.rows.map(({ id, judgement }) => [id, judgement])).toEqual([[one!.id, 'good']]);
    // What somebody changes on the bench is seen here.
    const { work, revision } = await readPiece(shop.db, one!.piece);
    const after = { ...work, paper: { ...work.paper, width: cm(20), height: null } };
    const patch = patchBetween(work, after);
    await changePiece(shop.db, one!.piece, { revision, label: 'wider', patch });
    const [changed] = (await itemsNews(shop.db, batch, news.known)).rows;
    expect(changed!.facts.print).toMatch(/^20 ×/);
  });

  it('keeps which files were no pictures, each once', async () => {
    const batch = await begin(1);
    const letter = { name: 'letter.txt', why: 'It is no picture.' };
    await addItems(shop.db, batch, {
      pieces: [],
      refused: [letter, { name: 'x.jpg', why: 'Cut.' }],
    });
    await addItems(shop.db, batch, { pieces: [], refused: [{ ...letter, why: 'Still none.' }] });
    const { refused } = await readBatch(shop.db, batch);
    expect(refused.map(({ name, why }) => `${name}: ${why}`)).toEqual([
      'x.jpg: Cut.',
      'letter.txt: Still none.',
    ]);
  });

  it('changes some of its pictures; what can’t be changed is said, and all is taken back', async () => {
    const batch = await begin(3);
    const [one, two, three] = await rowsOf(batch);
    const full = await readPiece(shop.db, three!.piece);
    const crowded = structuredClone(full.work);
    while (branchTrial(crowded, crowded.trials[0]!));
    expect(crowded.trials).toHaveLength(TRIALS);
    const patch = patchBetween(full.work, crowded);
    await changePiece(shop.db, full.id, { revision: full.revision, label: 'many', patch });
    await shop.db('batch_items').where({ id: three!.id }).update({ own: false });
    const outcome = await act(batch, {
      ...{ act: 'change', author: null, items: [one!.id, two!.id, three!.id, 999_999] },
      change: {
        size: { by: 'exact', width: cm(9), height: cm(6), fit: 'margin' },
        steps: { by: 'suiting' },
      },
    });
    expect(outcome.done).toBe(2);
    expect(outcome.failed.map(({ item }) => item)).toEqual([three!.id, 999_999]);
    const changed = await rowsOf(batch);
    expect(changed[0]!.facts.print).toBe('9 × 6 cm');
    expect(changed[0]!.facts.house).toMatchObject({ changed: false });
    expect(changed[2]!.facts.print).toBe(three!.facts.print);
    expect((await act(batch, outcome.undo[0]!)).done).toBe(2);
    const back = await rowsOf(batch);
    expect(back.map(({ facts }) => facts.made).slice(0, 2)).toEqual([
      one!.facts.made,
      two!.facts.made,
    ]);
  });

  it('is made in its order, a few at a time', async () => {
    const batch = await begin(4);
    const items = (await rowsOf(batch)).map(({ id }) => id);
    const moved = await act(batch, { act: 'move', items: [items[3]!], to: 'first' });
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    const states = async () =>
      (await rowsOf(batch)).map(({ id, state }) => [items.indexOf(id), state]);
    expect(await states()).toEqual([
      [3, 'queued'],
      [0, 'queued'],
      [1, 'not yet'],
      [2, 'not yet'],
    ]);
    await feedBatches(shop.db);
    expect((await states()).filter(([, state]) => state === 'queued')).toHaveLength(2);
    await act(batch, moved.undo[0]!);
    await pretend(batch, items[3]!, 'done');
    await feedBatches(shop.db);
    expect(await states()).toEqual([
      [0, 'queued'],
      [1, 'queued'],
      [2, 'not yet'],
      [3, 'done'],
    ]);
    // Paused, what waits comes back; gone on with, it is queued anew.
    await changeBatch(shop.db, batch, { state: 'paused' });
    await feedBatches(shop.db);
    expect((await readBatch(shop.db, batch)).states).toEqual({ 'not yet': 3, done: 1 });
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    expect((await readBatch(shop.db, batch)).states).toEqual({ queued: 2, 'not yet': 1, done: 1 });
    await deleteBatch(shop.db, batch);
  });

  it('says what failed, and makes that once more alone', async () => {
    const batch = await begin(3);
    const [one, two, three] = (await rowsOf(batch)).map(({ id }) => id);
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    await pretend(batch, one!, 'failed');
    await cancelTask(shop.db, (await rowsOf(batch))[1]!.task!);
    await feedBatches(shop.db);
    await pretend(batch, three!, 'done');
    await feedBatches(shop.db);
    expect(await readBatch(shop.db, batch)).toMatchObject({
      ...{ state: 'done', left: null },
      states: { failed: 1, cancelled: 1, done: 1 },
    });
    const [failed, , good] = await rowsOf(batch);
    expect(failed!.error).toBe('No more ink in the world.');
    // What is made is not made twice, whoever asks.
    const asked = await act(batch, { act: 'retry', items: [three!] });
    expect(asked).toMatchObject({ done: 0, failed: [{ words: expect.stringMatching(/is made/) }] });
    expect((await rowsOf(batch))[2]!.task).toBe(good!.task);
    await act(batch, { act: 'retry', items: [one!, two!] });
    await feedBatches(shop.db);
    const again = await rowsOf(batch);
    expect(again.map(({ state }) => state)).toEqual(['queued', 'queued', 'done']);
    expect(again[2]!.task).toBe(good!.task);
    await deleteBatch(shop.db, batch);
  });

  it('makes anew what was decided otherwise since, and not what was decided back', async () => {
    const batch = await begin(2);
    const [one] = (await rowsOf(batch)).map(({ id }) => id);
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    for (const { id } of await rowsOf(batch)) await pretend(batch, id, 'done');
    await feedBatches(shop.db);
    const { undo } = await act(batch, {
      act: 'change',
      items: [one!],
      change: { ppi: 120 },
      author: null,
    });
    expect(await readBatch(shop.db, batch)).toMatchObject({
      ...{ state: 'done', states: { done: 2 } },
    });
    expect((await rowsOf(batch)).map(({ state }) => state)).toEqual(['changed since', 'done']);
    expect((await readBatch(shop.db, batch)).state).toBe('paused');
    await act(batch, undo[0]!);
    expect((await rowsOf(batch)).map(({ state }) => state)).toEqual(['done', 'done']);
    await act(batch, { act: 'change', items: [one!], change: { ppi: 120 }, author: null });
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    expect((await rowsOf(batch)).map(({ state }) => state)).toEqual(['queued', 'done']);
    await deleteBatch(shop.db, batch);
  });

  it('that can’t make a picture says why at it, and goes on', async () => {
    const batch = await begin(2);
    const [one] = await rowsOf(batch);
    const wide = { by: 'width', length: { value: 900_000, unit: 'cm' } } as const;
    await act(batch, { act: 'change', items: [one!.id], change: { size: wide }, author: null });
    await changeBatch(shop.db, batch, { state: 'running' });
    await feedBatches(shop.db);
    const [failed, next] = await rowsOf(batch);
    expect(failed!.state).toBe('failed');
    expect(failed!.error).toMatch(/\w+/);
    expect(next!.state).toBe('queued');
    await deleteBatch(shop.db, batch);
  });

  it('queues a run once, though it was killed between naming and queueing it', async () => {
    const batch = await begin(1);
    const [row] = await rowsOf(batch);
    await changeBatch(shop.db, batch, { state: 'running' });
    const id = '0f9c3a52-1111-4222-8333-444455556666';
    await shop
      .db('batch_items')
      .where({ id: row!.id })
      .update({ task_id: id, made: row!.facts.made });
    expect((await rowsOf(batch))[0]!.state).toBe('not yet');
    await feedBatches(shop.db);
    await feedBatches(shop.db);
    const queued = await shop.db('tasks').where({ piece_id: row!.piece }).pluck('id');
    expect(queued).toEqual([id]);
    await deleteBatch(shop.db, batch);
    expect(await shop.db('tasks').where({ id }).pluck('state')).toEqual(['cancelled']);
    await expect(readBatch(shop.db, batch)).rejects.toThrow(/no such batch/);
    expect(await restoreBatch(shop.db, batch)).toMatchObject({ states: { 'not yet': 1 } });
    await deleteBatch(shop.db, batch);
  });

  it('goes on without pictures that left it, or whose jobs are gone', async () => {
    const batch = await begin(2);
    const [one, two] = await rowsOf(batch);
    const { undo } = await act(batch, { act: 'leave', items: [one!.id] });
    expect((await rowsOf(batch)).map(({ id }) => id)).toEqual([two!.id]);
    await act(batch, undo[0]!);
    expect(await rowsOf(batch)).toHaveLength(2);
    await deleteJob(shop.db, one!.jobId);
    expect(await rowsOf(batch)).toEqual([]);
    await purge(shop.db, DELETED_ROUNDS + 1);
    expect(await shop.db('batch_items').where({ batch_id: batch }).pluck('id')).toEqual([]);
  });
});

describe('batches that run', () => {
  it('make every picture once, whenever they are killed; results go to their folder and into a ZIP', async () => {
    const folder = join(shop.folder, 'print files');
    await writeFile(
      config().folders,
      JSON.stringify({ results: [{ name: 'Print files', path: 'print files' }] }),
    );
    const batch = await begin(12, { folder: 'Print files' });
    await changeBatch(shop.db, batch, { state: 'running' });
    for (const [ms, signal] of [
      [900, 'SIGKILL'],
      [1300, 'SIGTERM'],
      [1700, 'SIGKILL'],
    ] as const) {
      const child = startProcess();
      await later(ms);
      await endProcess(child, signal);
      // Whoever starts it anew gives back what the killed one had.
      await shop.db('tasks').where({ state: 'running' }).update({ lease_until: 1 });
    }
    const last = startProcess();
    await made(batch);
    for (let tries = 0; tries < 100; tries++) {
      if ((await rowsOf(batch)).every(({ delivered }) => delivered)) break;
      await later(50);
    }
    await endProcess(last, 'SIGTERM');
    const rows = await rowsOf(batch);
    expect(rows.map(({ state }) => state)).toEqual(Array(12).fill('done'));
    const runs = await shop
      .db('tasks')
      .where({ state: 'done' })
      .whereIn(
        'piece_id',
        rows.map(({ piece }) => piece),
      );
    expect(runs).toHaveLength(12);
    const names = rows.map(({ delivered }) => delivered!).sort();
    expect((await readdir(folder)).sort()).toEqual(names);
    expect(names[0]).toMatch(/^dome \d+-8cm\.png$/);
    const digestIn = async (name: string) =>
      createHash('sha256')
        .update(await readFile(join(folder, name)))
        .digest('hex');
    for (const { task, delivered } of rows) {
      const [digest] = await shop.db('artifacts').where({ task_id: task }).pluck('digest');
      expect(await digestIn(delivered!)).toBe(digest);
    }

    // As long as a batch is not over none of its results makes room for others.
    const spare = async () => (await resultsThatCanGo(shop.db)).map(({ taskId }) => taskId);
    expect(await spare()).toContain(rows[0]!.task);
    await shop.db('batches').where({ id: batch }).update({ state: 'paused' });
    expect(await spare()).not.toContain(rows[0]!.task);

    // Given up in the middle, it leaves nothing open.
    const { stream: broken } = await resultsZip(shop.db, batch);
    const reader = broken.getReader();
    await reader.read();
    await reader.cancel();
    const open = async () => {
      const links = (await readdir('/proc/self/fd')).map((fd) =>
        readlink(`/proc/self/fd/${fd}`).catch(() => ''),
      );
      return (await Promise.all(links)).filter((path) => path.includes('/results/'));
    };
    await expect.poll(open).toEqual([]);

    const { stream, bytes } = await resultsZip(shop.db, batch);
    const zip = Buffer.from(await new Response(stream).arrayBuffer());
    expect(zip.length).toBe(bytes);
    const read = await yauzl.fromBufferPromise(zip, { lazyEntries: true });
    const inside: string[] = [];
    for await (const entry of read.eachEntry()) inside.push(entry.fileName);
    expect(inside).toHaveLength(13);
    expect(inside).toEqual(expect.arrayContaining([...names, 'batch.csv']));
  }, 120_000);

  it('put no result over somebody’s file, and replace their own', async () => {
    const folder = join(shop.folder, 'print files');
    const batch = await begin(1, { folder: 'Print files' });
    const [row] = await rowsOf(batch);
    await mkdir(folder, { recursive: true });
    const name = `${row!.fileName.replace('.jpg', '')}-8cm.png`;
    await writeFile(join(folder, name), 'somebody’s');
    await changeBatch(shop.db, batch, { state: 'running' });
    const child = startProcess();
    await made(batch);
    await deliverResults(shop.db);
    expect(await readFile(join(folder, name), 'utf8')).toBe('somebody’s');
    const own = name.replace('.png', '-2.png');
    expect((await rowsOf(batch))[0]!.delivered).toBe(own);
    const before = await readFile(join(folder, own));
    await act(batch, { act: 'change', items: [row!.id], change: { ppi: 140 }, author: null });
    await changeBatch(shop.db, batch, { state: 'running' });
    await until(batch, ({ state, states }) => state === 'done' && states.done === 1);
    await endProcess(child, 'SIGTERM');
    await deliverResults(shop.db);
    expect((await rowsOf(batch))[0]!.delivered).toBe(own);
    expect((await readFile(join(folder, own))).equals(before)).toBe(false);
    expect((await readdir(folder)).filter((one) => one.startsWith('.'))).toEqual([]);
  }, 60_000);

  it('say where results don’t reach their folder, and put them there once it is back', async () => {
    const batch = await begin(1, { folder: 'Elsewhere' });
    await changeBatch(shop.db, batch, { state: 'running' });
    const child = startProcess();
    await made(batch);
    await endProcess(child, 'SIGTERM');
    await deliverResults(shop.db);
    expect((await readBatch(shop.db, batch)).trouble).toMatch(/no folder “Elsewhere”/);
    await changeBatch(shop.db, batch, { folder: 'Print files' });
    await rm(join(shop.folder, 'print files'), { recursive: true, force: true });
    // It rests for a while after trouble.
    await deliverResults(shop.db);
    expect(existsSync(join(shop.folder, 'print files'))).toBe(false);
    await deliverResults(shop.db, Date.now() + 60_000);
    const [row] = await rowsOf(batch);
    expect(await readdir(join(shop.folder, 'print files'))).toEqual([row!.delivered]);
    expect((await readBatch(shop.db, batch)).trouble).toBeNull();
  }, 60_000);

  it('have no ZIP as long as nothing is made', async () => {
    const batch = await begin(1);
    await expect(resultsZip(shop.db, batch)).rejects.toThrow(/No result/);
  });
});
