import { appendFile, writeFile } from 'node:fs/promises';
import { buffer } from 'node:stream/consumers';
import { PassThrough } from 'node:stream';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { canonicalJson } from '@/core/recipe/canonical';
import { CORE_VERSION } from '@/core/recipe/recipe';
import { JobRecord } from '@/core/shop/record';
import { artifactOf, Run } from '@/core/shop/task';
import { testPaper } from '@/core/testing';
import { decodePicture, endPictureProcesses } from '../codecs/pictures';
import { orderAgain } from '../db/again';
import { approve } from '../db/approving';
import { beginJob, readJob } from '../db/jobs';
import { changePiece } from '../db/pieces';
import { claimTask, readTask } from '../db/tasks';
import { store } from '../files/store';
import { takeIn } from '../files/take-in';
import { endThreads } from '../render/threads';
import { requestRun } from '../tasks/request-run';
import { runAgain } from '../tasks/run-again';
import { doTask } from '../tasks/task-process';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { jobOfNumber } from './gone';
import { readRecord } from './read-record';
import { thumbnailsOf } from './thumbnails';
import { writeRecord } from './write-record';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(async () => {
  await Promise.all([endPictureProcesses(), endThreads()]);
  await shop.close();
});

async function begun(bytes: Uint8Array, height = false) {
  const { digest, fileName } = await takeIn(shop.db, streamOf(bytes), 'kuppel.jpg');
  const paper = testPaper({
    width: { value: 30, unit: 'cm' },
    ...(height && { height: { value: 15, unit: 'cm' } }),
  });
  const job = {
    ...{ title: 'Große Kuppel', customer: 'Łódź', due: '2026-12-24', distance: 2, device: null },
    ...{ material: 'Canvas', paper, pictures: [{ digest, fileName, page: 1 }] },
  };
  return readJob(shop.db, await beginJob(shop.db, job));
}

/** Does the next task. */
async function done(id: string): Promise<Run> {
  const task = await claimTask(shop.db, 'me');
  expect(task?.id).toBe(id);
  await doTask(shop.db, task!, 'me');
  return Run.parse(await readTask(shop.db, id));
}

async function ran({ piece }: Awaited<ReturnType<typeof begun>>): Promise<Run> {
  const [trial] = piece.work.trials;
  const asked = { revision: piece.revision, trialId: trial!.id };
  return done((await requestRun(shop.db, piece.id, asked)).id);
}

const digestOf = (run: Run) => artifactOf(run, 'result')!.digest;

describe('the record of a job', () => {
  it('says of its original, order, steps, files and events what they were', async () => {
    const job = await begun(await testJpeg(160, 100));
    const zone = {
      ...{ id: 'z', name: 'Sky', painted: null, feather: 4, inverted: false },
      parts: [{ kind: 'flat', joining: 'add', inverted: false, level: 3 }],
    };
    const patch = [
      { op: 'add' as const, path: '/zones/-', value: zone },
      { op: 'add' as const, path: '/trials/0/treatment/0/zone', value: 'z' },
      {
        op: 'replace' as const,
        path: '/trials/0/house',
        value: { id: 1, version: 2, name: 'Walls' },
      },
    ];
    const changed = { revision: job.piece.revision, label: 'a zone', patch };
    const piece = await changePiece(shop.db, job.piece.id, changed);
    const run = await ran({ ...job, piece });
    const { revision, id } = piece;
    const signed = {
      revision,
      trialId: run.payload.trialId,
      initials: 'mk',
      note: 'as the proof',
      unseen: 0.4,
    };
    const evidence = {
      ...{ blocking: 2, noise: 1.5, edgeRisePx: 3, overshootPercent: null },
      ...{ psnrReduced: 38.26, ssimReduced: 0.98, colourShift: 0.4 },
    };
    await approve(shop.db, id, { ...signed, evidence });
    const record = JobRecord.parse(await readRecord(shop.db, job.id));
    expect(await jobOfNumber(shop.db, record.number)).toBe(job.id);
    const [recorded] = record.pieces;
    const text = (title: RegExp) =>
      recorded!.sections
        .filter((section) => title.test(section.title))
        .flatMap(({ rows }) => rows.map((row) => `${row.label}: ${row.text}`))
        .join('\n');
    expect(text(/^Original/)).toContain(job.piece.digest);
    expect(text(/^Original/)).toContain('160 × 100');
    expect(text(/^What it suffers/)).toMatch(/Blocking: \d+ %/);
    expect(text(/^Order/)).toContain('30 cm × as follows');
    expect(text(/^Order/)).toContain('Canvas');
    expect(text(/^Zones/)).toBe(
      'Sky: flat (joining add, inverted false, level 3); feathered by 4 px',
    );
    expect(text(/^Trial A/)).toContain(', in Sky');
    expect(text(/^Trial A/)).toContain('House recipe: Walls, version 2');
    expect(text(/^Trial A/)).toMatch(/Resolution: 160 ppi/);
    expect(text(/^Approved/)).toMatch(/By: MK\nFile: .*, of Trial A\nNot seen at 1:1: 40 %/);
    expect(text(/^Approved/)).toContain('Note: as the proof\nReduced back, dB: 38.3');
    expect(text(/^Run of Trial A/)).toContain(digestOf(run)!);
    expect(text(/^Run of Trial A/)).toMatch(/resample: .*width 1890, height 1181/);
    expect(text(/^Run of Trial A/)).toContain('gives the same bytes');
    expect(record.events.map(({ words }) => words).join('\n')).toMatch(/Trial A approved by MK/);
    expect(record.writtenBy).toMatch(new RegExp(`core ${CORE_VERSION}$`));
  });

  it('is a PDF of as many pages as it takes', async () => {
    const job = await begun(await testJpeg(160, 100));
    const record = await readRecord(shop.db, job.id);
    const long = {
      ...record,
      events: Array.from({ length: 150 }, (_, i) => ({
        at: 0,
        words: `${i} ${'a-word-without-end'.repeat(i % 20)} and more`,
      })),
    };
    const pages = async (of: JobRecord) => {
      const stream = new PassThrough();
      writeRecord(of, { thumbnails: await thumbnailsOf(of) }, stream);
      const file = join(shop.folder, 'record.pdf');
      await writeFile(file, await buffer(stream));
      const { findings } = await decodePicture({
        ...{ file, name: 'record.pdf', page: 1, raw: `${file}.none`, thumbnail: null },
      });
      return findings.pages;
    };
    expect(await pages(record)).toBeLessThanOrEqual(2);
    expect(await pages(long)).toBeGreaterThan(4);
  });

  it('gives the same bytes where its settled recipe is run again, whatever became of the trial', async () => {
    const job = await begun(await testJpeg(160, 100));
    const run = await ran(job);
    await changePiece(shop.db, job.piece.id, {
      ...{ revision: job.piece.revision, label: 'coarser' },
      patch: [{ op: 'replace', path: '/trials/0/ppi', value: 90 }],
    });
    const again = await done((await runAgain(shop.db, run.id)).id);
    expect(digestOf(again)).toBe(digestOf(run));
    expect(again.payload.again).toEqual({ run: run.id, digest: digestOf(run) });
    expect(canonicalJson(again.payload.recipe)).toBe(canonicalJson(run.payload.recipe));
  });

  it('says of an older core that it would give other pixels', async () => {
    const job = await begun(await testJpeg(160, 100));
    const run = await ran(job);
    const older = { ...run.payload, recipe: { ...run.payload.recipe, core: '3' } };
    await shop
      .db('tasks')
      .where({ id: run.id })
      .update({ payload: JSON.stringify(older) });
    const { pieces } = await readRecord(shop.db, job.id);
    const words = JSON.stringify(pieces);
    expect(words).toContain(`made by core 3; this is core ${CORE_VERSION}`);
    expect(words).not.toContain('gives the same bytes');
  });

  it('orders again at another width, with all that was decided', async () => {
    const job = await begun(await testJpeg(160, 100), true);
    const width = { value: 200, unit: 'cm' } as const;
    const again = await readJob(shop.db, await orderAgain(shop.db, job.id, { width }));
    expect(again).toMatchObject({ title: job.title, customer: job.customer, state: 'received' });
    expect(again.number).not.toBe(job.number);
    expect(again.due).toBeNull();
    expect(again.piece.work.paper).toMatchObject({ width, height: { value: 100, unit: 'cm' } });
    expect(again.piece.work.trials).toEqual(job.piece.work.trials);
    expect(again.piece.history[0]!.label).toBe(`As job ${job.number}, at 200 cm`);
    const same = await readJob(shop.db, await orderAgain(shop.db, job.id, { width: null }));
    expect(same.piece.work).toEqual(job.piece.work);
    const pixels = orderAgain(shop.db, job.id, { width: { value: 9, unit: 'px' } });
    await expect(pixels).rejects.toThrow(/on paper/);
  });
});

describe('a run whose original changed on the disk', () => {
  it('fails in words, and keeps nothing', async () => {
    const job = await begun(await testJpeg(170, 100));
    await ran(job);
    await appendFile(store.original(job.piece.digest), 'x');
    const run = await ran(job);
    expect(run).toMatchObject({ state: 'failed', artifacts: [] });
    expect(run.error).toMatch(/kuppel.jpg is damaged on the disk/);
  });
});
