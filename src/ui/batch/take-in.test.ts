import { QueryClient } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { NewItems } from '@/core/batch/batch';
import type { NewJob, NewPieces } from '@/core/shop/job';
import { api, ServerProblem, upload } from '../data/api';
import { takeInto, useOnTheirWay } from './take-in';

vi.mock('../data/api', async (original) => ({
  ...(await original<typeof import('../data/api')>()),
  api: { beginJob: vi.fn(), addPieces: vi.fn(), addItems: vi.fn() },
  upload: vi.fn(),
}));
vi.mock('../data/author', () => ({ author: () => 'AB' }));

const order = { title: 'Monday', customer: '', due: null, distance: 2 } as const;
const files = (count: number) =>
  Array.from({ length: count }, (_, i) => new File(['x'], `${i}.jpg`));
const take = (count: number, known?: ReadonlySet<string>) =>
  takeInto(
    new QueryClient(),
    7,
    files(count),
    { ...order, device: null, material: null },
    ...(known ? [known] : []),
  );

/** A shop that keeps what it is asked for once by its name. */
const shop = { pieces: [] as number[], names: new Map<string, number>(), joined: [] as number[] };
const keep = async ({ pictures, once }: NewJob | NewPieces) => {
  if (!shop.names.has(once!)) {
    for (const _ of pictures) shop.pieces.push(shop.pieces.length + 1);
    shop.names.set(once!, 1);
  }
  return { id: 1, pieces: shop.pieces.map((id) => ({ id })) } as never;
};
const lost = () => Promise.reject(new ServerProblem('The shop does not answer.', 0));

beforeEach(() => {
  vi.useFakeTimers();
  Object.assign(shop, { pieces: [], names: new Map(), joined: [] });
  vi.mocked(upload).mockImplementation((file) =>
    Promise.resolve({ digest: `digest of ${file.name}`, fileName: file.name } as never),
  );
  vi.mocked(api.beginJob).mockImplementation(keep);
  vi.mocked(api.addPieces).mockImplementation((_, added) => keep(added));
  vi.mocked(api.addItems).mockImplementation((_, { pieces }) => {
    shop.joined.push(...(pieces ?? []));
    return Promise.resolve() as never;
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.clearAllMocks();
});

const refusals = (): NewItems['refused'] =>
  vi.mocked(api.addItems).mock.calls.flatMap(([, { refused = [] }]) => refused);

describe('files on their way into a batch', () => {
  it('become pictures of one job, ten at a time, and join it', async () => {
    await take(23);
    expect(api.beginJob).toHaveBeenCalledTimes(1);
    expect(api.addPieces).toHaveBeenCalledTimes(2);
    expect(shop.joined).toEqual(Array.from({ length: 23 }, (_, i) => i + 1));
    expect(useOnTheirWay.getState().now).toBeNull();
  });

  it('are kept once where the answer was lost, whichever it was', async () => {
    // Done, but nobody heard of it.
    vi.mocked(api.beginJob).mockImplementationOnce((job) => keep(job).then(lost));
    vi.mocked(api.addPieces).mockImplementationOnce((_, added) => keep(added).then(lost));
    vi.mocked(upload).mockImplementationOnce(lost);
    const all = take(12);
    await vi.advanceTimersByTimeAsync(20_000);
    await all;
    expect(shop.pieces).toHaveLength(12);
    expect(shop.joined).toEqual(shop.pieces);
    const names = vi.mocked(api.beginJob).mock.calls.map(([{ once }]) => once);
    expect(names).toHaveLength(2);
    expect(new Set(names).size).toBe(1);
  });

  it('are refused one by one, in words, and the others go on', async () => {
    vi.mocked(upload).mockImplementationOnce(() =>
      Promise.reject(new ServerProblem('0.jpg is not a picture.', 422)),
    );
    await take(3, new Set(['digest of 2.jpg']));
    expect(shop.joined).toEqual([1]);
    expect(refusals()).toEqual([
      { name: '0.jpg', why: '0.jpg is not a picture.' },
      { name: '2.jpg', why: expect.stringContaining('in the batch already') as string },
    ]);
  });

  it('stop where the shop does not come back, and the next may go', async () => {
    vi.mocked(api.addItems).mockImplementation(lost);
    const all = take(1);
    await vi.advanceTimersByTimeAsync(70_000);
    await all;
    expect(useOnTheirWay.getState().now).toBeNull();
    expect(vi.mocked(api.addItems).mock.calls.length).toBe(40);
  });
});
