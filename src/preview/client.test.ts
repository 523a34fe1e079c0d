import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Asked } from './worker';

interface Request extends Asked {
  worker: number;
  resolve(answer: unknown): void;
  reject(error: Error): void;
}
const asked: Request[] = [];
const cancelled: number[] = [];
let workers = 0;

// The worker itself has tests of its own; here stands what it promises.
vi.mock('comlink', () => ({
  proxy: <T>(value: T) => value,
  wrap: () => {
    const worker = workers++;
    return {
      ask: (request: Asked) =>
        new Promise((resolve, reject) => asked.push({ ...request, worker, resolve, reject })),
      cancel: async (id: number) => void cancelled.push(id),
    };
  },
}));
vi.stubGlobal('Worker', class {});
vi.stubGlobal('navigator', { hardwareConcurrency: 2 });
const { ask, askAll, PRIORITY } = await import('./client');

const histogram = (group: string, signal?: AbortSignal) =>
  ask('histogram', {} as never, { priority: PRIORITY.figures, group, signal });

beforeEach(() => {
  asked.splice(0);
  cancelled.splice(0);
});

describe('the preview', () => {
  it('gives a group always to the same worker, and groups to both', async () => {
    for (const group of ['a', 'b', 'a', 'b']) void histogram(group);
    expect(asked.map(({ worker }) => worker)).toEqual([0, 1, 0, 1]);
    expect(new Set(asked.map(({ id }) => id)).size).toBe(4);
  });

  it('answers with what the worker does, trouble included', async () => {
    const [good, bad] = [histogram('a'), histogram('a')];
    asked[0]!.resolve({ counts: [] });
    asked[1]!.reject(new Error('no tile'));
    await expect(good).resolves.toEqual({ counts: [] });
    await expect(bad).rejects.toThrow('no tile');
    expect(cancelled).toEqual([]);
  });

  it('cancels in the worker what is aborted, and answers with the reason', async () => {
    const stop = new AbortController();
    const asking = histogram('a', stop.signal);
    stop.abort(new Error('overtaken'));
    expect(cancelled).toEqual([asked[0]!.id]);
    // Even where the answer was on its way already.
    asked[0]!.resolve({ counts: [] });
    await expect(asking).rejects.toThrow('overtaken');
    await expect(histogram('a', stop.signal)).rejects.toThrow('overtaken');
    expect(asked).toHaveLength(1);
  });

  it('tells both workers what each has to know', async () => {
    const told = askAll('mask', {} as never);
    expect(asked.map(({ worker }) => worker)).toEqual([0, 1]);
    asked.forEach(({ resolve }) => resolve(undefined));
    await told;
  });
});
