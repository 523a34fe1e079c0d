import { describe, expect, it } from 'vitest';
import { Turns, type Turn } from './turns';

/** Work in so many parts, each longer than it goes on by itself. */
async function work(turn: Turn, name: string, parts: number, done: string[]): Promise<void> {
  try {
    for (let part = 0; part < parts; part++) {
      await turn.next();
      const until = performance.now() + 8;
      while (performance.now() < until);
      done.push(name);
    }
  } finally {
    turn.end();
  }
}

const never = () => new AbortController().signal;

describe('turns at a worker', () => {
  it('go to what is most urgent, of what is alike to what came first', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const all = [
      [1, 'figures'],
      [5, 'seen'],
      [2, 'ahead'],
      [5, 'seen next'],
    ].map(([priority, name]) =>
      work(turns.begin(priority as number, never()), name as string, 1, done),
    );
    await Promise.all(all);
    expect(done).toEqual(['seen', 'seen next', 'ahead', 'figures']);
  });

  it('are given up between parts to what came meanwhile and is more urgent', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const search = work(turns.begin(0, never()), 'search', 6, done);
    while (done.length < 2) await new Promise((resolve) => setTimeout(resolve, 2));
    const seen = work(turns.begin(5, never()), 'seen', 2, done);
    await Promise.all([search, seen]);
    const first = done.indexOf('seen');
    expect(done.slice(first, first + 2)).toEqual(['seen', 'seen']);
    expect(done.slice(first + 2)).toContain('search');
    expect(done.filter((name) => name === 'search')).toHaveLength(6);
  });

  it('end where nobody wants the work any more, and the next goes on', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const stop = new AbortController();
    const given = work(turns.begin(5, stop.signal), 'given up', 100, done);
    const waiting = work(turns.begin(4, never()), 'next', 1, done);
    while (done.length < 2) await new Promise((resolve) => setTimeout(resolve, 2));
    stop.abort(new Error('not wanted'));
    await expect(given).rejects.toThrow('not wanted');
    await waiting;
    expect(done.at(-1)).toBe('next');
  });

  it('that wait are ended without ever having begun', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const stop = new AbortController();
    const first = work(turns.begin(5, never()), 'first', 3, done);
    const given = work(turns.begin(1, stop.signal), 'given up', 3, done);
    while (done.length < 1) await new Promise((resolve) => setTimeout(resolve, 2));
    stop.abort(new Error('not wanted'));
    await first;
    await expect(given).rejects.toThrow('not wanted');
    expect(done).toEqual(['first', 'first', 'first']);
  });
});
