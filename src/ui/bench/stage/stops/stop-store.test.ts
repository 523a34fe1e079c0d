import { describe, expect, it } from 'vitest';
import { nextLook, type ShownStop } from './stop-store';

const stop = (key: string): ShownStop => ({ key, title: key, words: '', x: 0, y: 0, mark: null });
const list = [stop('a'), stop('b')];

/** Where so many steps lead from a state. */
function walked(by: -1 | 1, steps: number) {
  let state: Parameters<typeof nextLook>[0] = { list, at: null, closer: false };
  return Array.from({ length: steps }, () => {
    const next = nextLook(state, by)!;
    state = { list, at: next.stop.key, closer: next.closer };
    return `${state.at}${state.closer ? ' grid' : ''}`;
  });
}

describe('walking stops', () => {
  it('goes to each at 1:1 and on the original’s grid, and round again', () => {
    expect(walked(1, 5)).toEqual(['a', 'a grid', 'b', 'b grid', 'a']);
    expect(walked(-1, 5)).toEqual(['b grid', 'b', 'a grid', 'a', 'b grid']);
  });

  it('begins anew where the stop is gone, and goes nowhere where there is none', () => {
    expect(nextLook({ list, at: 'gone', closer: true }, 1)).toMatchObject({ closer: false });
    expect(nextLook({ list, at: 'gone', closer: true }, 1)!.stop.key).toBe('a');
    expect(nextLook({ list: [], at: null, closer: false }, 1)).toBeNull();
  });
});
