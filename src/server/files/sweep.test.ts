import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { store } from './store';
import { sweepLeftovers } from './sweep';
import { takeIn } from './take-in';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

it('removes half-written files and nothing that is whole', async () => {
  expect(await sweepLeftovers(shop.db)).toBe(0);
  const { digest } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  const run = '01234567-89ab-4cde-8f01-23456789abcd';
  await mkdir(join(shop.folder, 'results'), { recursive: true });
  await writeFile(store.result(run), 'a whole result');
  await writeFile(`${store.result(run)}.part.tif`, 'half');
  await writeFile(`${store.raw(digest, 1)}.2.part.v`, 'half');
  await writeFile(join(store.uploads(), 'left'), 'half');
  expect(await sweepLeftovers(shop.db)).toBe(3);
  const left = (await readdir(shop.folder, { recursive: true })).filter((name) =>
    /part|left/.test(name),
  );
  expect(left).toEqual([]);
  for (const path of [
    store.result(run),
    store.raw(digest, 1),
    store.original(digest),
    store.thumbnail(digest, 1),
  ]) {
    const folder = join(path, '..');
    expect(await readdir(folder)).toContain(path.slice(folder.length + 1));
  }
});
