import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PreviewRequest } from './client';

interface Asked {
  region: { x: number };
  resolve(pixels: { x: number }): void;
  reject(error: Error): void;
}
const asked: Asked[] = [];

// The worker itself is driven by the interface tests; here stands what it promises.
vi.mock('comlink', () => ({
  wrap: () => ({
    render: (_: unknown, __: unknown, region: { x: number }) =>
      new Promise((resolve, reject) => asked.push({ region, resolve, reject })),
  }),
}));
vi.stubGlobal('Worker', class {});

const request = (x: number) =>
  ({
    original: {},
    recipe: {},
    region: { x, y: 0, width: 1, height: 1 },
  }) as unknown as PreviewRequest;

beforeEach(() => void asked.splice(0));

describe('the preview queue', () => {
  it('keeps one request under way and of the others only the newest', async () => {
    const { PreviewQueue } = await import('./client');
    const queue = new PreviewQueue();
    const [first, second, third] = [1, 2, 3].map((x) => queue.ask(request(x)));
    expect(asked.map((one) => one.region.x)).toEqual([1]);
    await expect(second).resolves.toBeNull();
    asked[0]!.resolve({ x: 1 });
    await expect(first).resolves.toEqual({ x: 1 });
    await vi.waitFor(() => expect(asked.map((one) => one.region.x)).toEqual([1, 3]));
    asked[1]!.resolve({ x: 3 });
    await expect(third).resolves.toEqual({ x: 3 });
  });

  it('goes on after a request that failed', async () => {
    const { PreviewQueue } = await import('./client');
    const queue = new PreviewQueue();
    const broken = queue.ask(request(1));
    const next = queue.ask(request(2));
    asked[0]!.reject(new Error('no tile'));
    await expect(broken).rejects.toThrow('no tile');
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    asked[1]!.resolve({ x: 2 });
    await expect(next).resolves.toEqual({ x: 2 });
  });
});
