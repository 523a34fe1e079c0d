import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProcessNews } from '@/core/shop/processes';
import { hearOfProcesses, processStore, processWords } from './processes';

const news = (up: boolean, ended: number): ProcessNews => {
  const alive = { up: true, since: 0, ended: 0 };
  return { web: alive, tasks: { up, since: 0, ended }, devices: alive };
};
const words = () => processWords(processStore.getState());

beforeEach(() => {
  vi.useFakeTimers();
  processStore.setState({ answers: true, news: null, endedLately: false });
});
afterEach(() => vi.useRealTimers());

describe('what a page says of the shop’s processes', () => {
  it('is nothing while all is well, whatever ended before the page was opened', () => {
    hearOfProcesses(news(true, 3));
    expect(words()).toBeNull();
  });

  it('names an end for a while, even of a process that was there again before it was heard of', () => {
    hearOfProcesses(news(true, 0));
    hearOfProcesses(news(true, 1));
    expect(words()).toContain('started again');
    vi.advanceTimersByTime(3900);
    expect(words()).not.toBeNull();
    vi.advanceTimersByTime(200);
    expect(words()).toBeNull();
  });

  it('names it for as long as the process is away, and how often it ended', () => {
    hearOfProcesses(news(true, 1));
    hearOfProcesses(news(false, 2));
    vi.advanceTimersByTime(60_000);
    expect(words()).toContain('It ended 2 times by now');
    hearOfProcesses(news(true, 2));
    expect(words()).toBeNull();
  });

  it('is not confused by a shop that was opened anew and counts from nothing', () => {
    hearOfProcesses(news(true, 4));
    hearOfProcesses(news(true, 0));
    expect(words()).toBeNull();
  });

  it('says first that nobody answers', () => {
    hearOfProcesses(news(false, 1));
    processStore.setState({ answers: false });
    expect(words()).toContain('does not answer');
  });
});
