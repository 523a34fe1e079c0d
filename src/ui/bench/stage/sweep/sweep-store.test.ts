import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Sweep } from '@/core/shop/comparing';
import { keepNow, keepSoon } from './keep-seen';
import { packed, together, unpacked, type Swept } from './sweep-store';

const grid = { columns: 5, rows: 3 };
const swept = (...at: number[]): Swept => ({
  ...{ trial: 'a', state: 's', grid },
  seen: Uint8Array.from({ length: 15 }, (_, i) => Number(at.includes(i))),
});

describe('what was seen', () => {
  it('is the same once it was packed and unpacked', () => {
    const some = swept(0, 7, 8, 14);
    expect(unpacked(packed(some), swept())).toEqual(some);
  });

  it('counts for its own result alone', () => {
    const kept = packed(swept(3));
    expect(unpacked(kept, { ...swept(), state: 'another' })).toBeNull();
    expect(unpacked(kept, { ...swept(), trial: 'b' })).toBeNull();
    expect(unpacked({ ...kept, rows: 4 }, swept())).toBeNull();
  });

  it('in two tabs is seen in both', () => {
    expect(together(swept(1, 2), swept(2, 9))).toEqual(swept(1, 2, 9));
    const all = swept(1, 2);
    expect(together(all, swept(2))).toBe(all);
  });
});

describe('keeping it', () => {
  const sent: Sweep[] = [];
  const answers = vi.fn(async (_: string, { body }: { body: string }) => {
    sent.push(JSON.parse(body) as Sweep);
    return new Response(body);
  });
  beforeEach(() => {
    sent.length = 0;
    vi.useFakeTimers();
    vi.stubGlobal('fetch', answers);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const ignore = () => {};

  it('is one call for what follows soon after each other, of each trial', async () => {
    const heard: Sweep[] = [];
    keepSoon(1, packed(swept(1)), ignore);
    keepSoon(1, packed({ ...swept(4), trial: 'b' }), ignore);
    keepSoon(1, packed(swept(1, 2)), (kept) => heard.push(kept));
    expect(sent).toEqual([]);
    await vi.advanceTimersByTimeAsync(2000);
    expect(sent.map(({ trial }) => trial)).toEqual(['a', 'b']);
    expect(sent[0]).toEqual(packed(swept(1, 2)));
    expect(heard).toEqual([packed(swept(1, 2))]);
  });

  it('waits for nothing when the picture is left, and sends nothing twice', async () => {
    keepSoon(2, packed(swept(5)), ignore);
    keepNow();
    expect(sent).toEqual([packed(swept(5))]);
    await vi.advanceTimersByTimeAsync(5000);
    expect(sent).toHaveLength(1);
  });

  it('goes on where the shop did not answer', async () => {
    answers.mockRejectedValueOnce(new Error('no line'));
    keepSoon(3, packed(swept(5)), ignore);
    await vi.advanceTimersByTimeAsync(2000);
    keepSoon(3, packed(swept(5, 6)), ignore);
    await vi.advanceTimersByTimeAsync(2000);
    expect(sent).toEqual([packed(swept(5, 6))]);
  });
});
