import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { combOf, unrest } from './comb';

/** How columns differ where cells of a span begin, each cell differing from the last as pictures do, over unrest. */
function steps(length: number, span: number, first: number, rest: number, seed = 1): Float64Array {
  const next = random(seed);
  const found = Float64Array.from({ length }, () => rest * next());
  for (let at = first; at + 0.5 < length; at += span) {
    const border = Math.floor(at + 0.5);
    if (border > 0) found[border] = rest + 8 * next();
  }
  return found;
}

/** How far two places of a comb are apart, whichever of its borders they are. */
const apart = (one: number, other: number, span: number): number => {
  const off = Math.abs(one - other) % span;
  return Math.min(off, span - off);
};

describe('a comb of borders', () => {
  it.each([
    [2, 0],
    [3, 1],
    [8, 5],
    [10, 0],
    [16, 11],
    [19, 2],
    [24, 23],
    [30, 7],
    [56, 40],
  ])('of %d pixels from %d on is found', (span, first) => {
    const comb = combOf(steps(640, span, first, 0.03))!;
    expect(comb.span).toBe(span);
    expect(apart(comb.first, first, span)).toBe(0);
    expect(comb.share).toBeGreaterThan(0.8);
    expect(comb.used).toBeGreaterThan(0.8);
  });

  it('of spans that are no whole pixels is found as well', () => {
    for (const span of [2.5, 3.75, 7.3, 12.4, 20.7, 33.3]) {
      const comb = combOf(steps(900, span, 0, 0.02))!;
      expect(Math.abs(comb.span - span)).toBeLessThan(span / 100);
      expect(comb.share).toBeGreaterThan(0.7);
    }
  });

  it('is none where nothing changes, or on a few pixels', () => {
    expect(combOf(new Float64Array(400))).toBeNull();
    expect(combOf(steps(20, 4, 0, 0.1))).toBeNull();
  });

  it('is weak where change lies anywhere', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (seed) => {
        const next = random(seed);
        const anywhere = Float64Array.from({ length: 700 }, () => 9 * next() ** 3);
        expect(combOf(anywhere)?.share ?? 0).toBeLessThan(0.4);
      }),
      { numRuns: 30 },
    );
  });

  it('is not taken for one of half its span, half of whose borders carry nothing', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 60 }),
        fc.integer({ min: 1, max: 99 }),
        (span, seed) => {
          expect(combOf(steps(720, span, 0, 0.1, seed))!.span).toBe(span);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('tells unrest within its cells from their borders', () => {
    const calm = unrest({ span: 8, first: 0 }, steps(400, 8, 0, 0.1));
    const restless = unrest({ span: 8, first: 0 }, steps(400, 8, 0, 4));
    expect(calm).toBeLessThan(0.05);
    expect(restless).toBeGreaterThan(4 * calm);
  });
});
