import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { NewJob } from '@/core/shop/job';
import { testPaper } from '@/core/testing';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { addPieces, beginJob, readJob } from './jobs';

let shop: TestShop;
let order: NewJob;
beforeAll(async () => {
  shop = await openTestShop();
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  order = {
    ...{ title: 'Panel', customer: '', due: null, distance: 2, device: null, material: null },
    pictures: [{ digest, fileName, page: 1 }],
    paper: testPaper({ width: { value: 30, unit: 'cm' } }),
  };
});
afterAll(() => shop.close());

const count = async (table: string): Promise<number> => {
  const [row] = await shop.db(table).count({ n: '*' });
  return Number(row!.n);
};

describe('what is asked for by a name of its own', () => {
  it('is a job once, however often it is asked for and whatever is asked beside it', async () => {
    const once = randomUUID();
    const both = await Promise.all([1, 2, 3].map(() => beginJob(shop.db, { ...order, once })));
    const again = await beginJob(shop.db, { ...order, once });
    expect(new Set([...both, again]).size).toBe(1);
    expect(await count('jobs')).toBe(1);
    expect(await beginJob(shop.db, { ...order, once: randomUUID() })).not.toBe(again);
    // What has no name is done each time.
    await beginJob(shop.db, order);
    await beginJob(shop.db, order);
    expect(await count('jobs')).toBe(4);
  });

  it('adds pictures to a job once, and says which they were', async () => {
    const id = await beginJob(shop.db, order);
    const once = randomUUID();
    const first = await addPieces(shop.db, id, { pictures: order.pictures, once });
    expect(await addPieces(shop.db, id, { pictures: order.pictures, once })).toEqual(first);
    const view = await readJob(shop.db, id);
    expect(view.pieces.map((piece) => piece.id).slice(1)).toEqual(first);
  });

  it('is done at the next asking where it failed, and leaves nothing before', async () => {
    const [jobs, once] = [await count('jobs'), randomUUID()];
    const ask = (fails: boolean) =>
      beginJob(shop.db, { ...order, once }, () =>
        fails ? Promise.reject(new Error('the disk is full')) : Promise.resolve(),
      );
    await expect(ask(true)).rejects.toThrow('the disk is full');
    expect(await count('jobs')).toBe(jobs);
    await ask(false);
    expect(await count('jobs')).toBe(jobs + 1);
  });

  it('is forgotten a day later', async () => {
    const known = await count('asked_once');
    expect(known).toBeGreaterThan(2);
    await shop.db('asked_once').update({ at: Date.now() - 90_000_000 });
    await beginJob(shop.db, { ...order, once: randomUUID() });
    expect(await count('asked_once')).toBe(1);
  });
});
