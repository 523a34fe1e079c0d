import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { followShop, type ShopNews } from './shop-stream';

/** A line to a server that says what it is told to. */
class Line extends EventTarget {
  static readonly CLOSED = 2;
  static all: Line[] = [];
  readyState = 1;
  constructor() {
    super();
    Line.all.push(this);
  }
  say(name: string, data = ''): void {
    this.dispatchEvent(Object.assign(new Event(name), { data }));
  }
  close(): void {
    this.readyState = Line.CLOSED;
  }
}

/** Locks of one browser: the first has it, the others wait for their turn. */
function locks() {
  let turn: Promise<unknown> = Promise.resolve();
  return {
    request: (_: string, { signal }: { signal: AbortSignal }, held: () => Promise<void>) => {
      const mine = turn.then(() => (signal.aborted ? undefined : held()));
      turn = mine;
      return mine;
    },
  };
}

const tabs: (() => void)[] = [];
function tab() {
  const heard: ShopNews[] = [];
  const close = followShop((news) => heard.push(news));
  tabs.push(close);
  return { heard, close };
}
const soon = () => new Promise((resolve) => setTimeout(resolve, 20));

beforeEach(() => {
  Line.all = [];
  vi.stubGlobal('EventSource', Line);
  vi.stubGlobal('navigator', { locks: locks() });
});
afterEach(() => {
  for (const close of tabs.splice(0)) close();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('the shop’s news', () => {
  it('reach all tabs by one line, which the next takes up when its tab closes', async () => {
    const [one, two] = [tab(), tab()];
    await soon();
    expect(Line.all).toHaveLength(1);
    Line.all[0]!.say('open');
    Line.all[0]!.say('job', '7');
    await soon();
    for (const { heard } of [one, two]) {
      expect(heard).toEqual([
        { name: 'open', data: '' },
        { name: 'job', data: '7' },
      ]);
    }
    one.close();
    await soon();
    expect(Line.all.map(({ readyState }) => readyState)).toEqual([Line.CLOSED, 1]);
    Line.all[1]!.say('job', '8');
    await soon();
    expect(two.heard.at(-1)).toEqual({ name: 'job', data: '8' });
    expect(one.heard).toHaveLength(2);
  });

  it('reach each tab by a line of its own where the browser has no locks, and but once', async () => {
    vi.stubGlobal('navigator', {});
    const [one, two] = [tab(), tab()];
    expect(Line.all).toHaveLength(2);
    for (const line of Line.all) line.say('job', '7');
    await soon();
    for (const { heard } of [one, two]) expect(heard).toEqual([{ name: 'job', data: '7' }]);
    one.close();
    expect(Line.all.map(({ readyState }) => readyState)).toEqual([Line.CLOSED, 1]);
  });

  it('are caught up with by a tab that comes later: how processes are, and whether anybody answers', async () => {
    tab();
    await soon();
    Line.all[0]!.say('processes', '{"web":1}');
    Line.all[0]!.say('processes', '{"web":2}');
    Line.all[0]!.say('task', '{}');
    const late = tab();
    await soon();
    expect(late.heard).toEqual([{ name: 'processes', data: '{"web":2}' }]);
  });

  it('of a line that is down come once it has been so for a while, and it is opened anew', async () => {
    const { heard } = tab();
    await soon();
    vi.useFakeTimers();
    const [line] = Line.all as [Line];
    line.say('error');
    line.close();
    vi.advanceTimersByTime(1000);
    expect(heard).toEqual([]);
    vi.advanceTimersByTime(1000);
    expect(heard).toEqual([{ name: 'lost', data: '' }]);
    vi.advanceTimersByTime(4000);
    expect(Line.all).toHaveLength(2);
    Line.all[1]!.say('open');
    expect(heard.at(-1)).toEqual({ name: 'open', data: '' });
  });
});
