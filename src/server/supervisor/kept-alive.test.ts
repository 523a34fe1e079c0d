import { describe, expect, it } from 'vitest';
import { diedOfItself } from './death';
import { FIRST_PAUSE_MS, LONGEST_PAUSE_MS, nextPause, SOUND_MS } from './kept-alive';

describe('the pause before a process is started again', () => {
  it('grows while it soon ends, up to a bound, and begins anew once it lived', () => {
    let pause = FIRST_PAUSE_MS / 2;
    const pauses = Array.from({ length: 9 }, () => (pause = nextPause(pause, 100, true)));
    expect(pauses.slice(0, 3)).toEqual([500, 1000, 2000]);
    expect(pauses.at(-1)).toBe(LONGEST_PAUSE_MS);
    expect(nextPause(pause, SOUND_MS, true)).toBe(FIRST_PAUSE_MS);
    expect(nextPause(pause, 100, false)).toBe(FIRST_PAUSE_MS);
  });
});

describe('a process', () => {
  it('died of itself where it crashed, not where somebody ended it', () => {
    const died = diedOfItself(() => 0);
    for (const signal of ['SIGSEGV', 'SIGABRT', 'SIGBUS']) expect(died(null, signal)).toBe(true);
    for (const signal of ['SIGTERM', 'SIGINT', 'SIGKILL']) expect(died(null, signal)).toBe(false);
    expect(died(1, null)).toBe(true);
    expect(died(0, null)).toBe(false);
  });

  it('died of itself where the system ended it for lack of memory', () => {
    let ended = 4;
    const died = diedOfItself(() => ended);
    expect(died(null, 'SIGKILL')).toBe(false);
    ended = 5;
    expect(died(null, 'SIGKILL')).toBe(true);
    expect(died(null, 'SIGKILL')).toBe(false);
  });
});
