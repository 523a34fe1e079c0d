import { existsSync } from 'node:fs';
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { testPaper } from '@/core/testing';
import { beginJob, readJob } from '../db/jobs';
import { requestRun } from '../tasks/request-run';
import { partOf, store } from './store';
import { sweepLeftovers } from './sweep';
import { takeIn } from './take-in';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

it('removes what is half, and what no record names; and nothing else', async () => {
  expect(await sweepLeftovers(shop.db)).toBe(0);
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  const jobId = await beginJob(shop.db, {
    ...{ title: 'Wall', customer: '', due: null, distance: 2, device: null, material: null },
    pictures: [{ digest, fileName, page: 1 }],
    paper: testPaper({ width: { value: 10, unit: 'cm' } }),
  });
  const { piece } = await readJob(shop.db, jobId);
  const waiting = await requestRun(shop.db, piece.id, { revision: 0, trialId: 'a' });
  const unknown = '01234567-89ab-4cde-8f01-23456789abcd';
  const painted = join(store.masks(), 'ab', `${'ab'.repeat(32)}.gz`);
  await mkdir(join(painted, '..'), { recursive: true });
  const [goesOn, half] = [
    partOf(store.result(waiting.id), 'x'),
    partOf(store.result(unknown), 'y'),
  ];
  const left = [store.result(unknown), half, `${painted}.part`, `${store.raw(digest, 1)}.2.part.v`];
  const stays = [`${goesOn}.scratch0`, painted];
  for (const path of [...left, ...stays, join(store.uploads(), 'left')]) await writeFile(path, 'x');
  expect(await sweepLeftovers(shop.db)).toBe(5);
  expect(left.map(existsSync)).toEqual(left.map(() => false));
  expect(await readdir(store.uploads())).toEqual([]);
  const whole = [store.raw(digest, 1), store.original(digest), store.thumbnail(digest, 1)];
  expect([...stays, ...whole].filter((path) => !existsSync(path))).toEqual([]);
});
