import { describe, expect, it } from 'vitest';
import { riseOf, steepestEdge } from './profile';

/** The error function to about 1e-7 (Abramowitz & Stegun 7.1.26 gives 1.5e-7). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const sum =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  return Math.sign(x) * (1 - sum * Math.exp(-x * x));
}

/** A blurred step from 0.2 to 0.7 at `middle`, so many samples long. */
const step = (sigma: number, middle: number, length = 40): number[] =>
  Array.from({ length }, (_, i) => 0.45 + 0.25 * erf((i - middle) / (sigma * Math.SQRT2)));

describe('a line across an edge', () => {
  it.each([1, 1.7, 3])('rises as its blur says, between samples too: sigma %d', (sigma) => {
    for (const middle of [19.5, 20, 20.3]) {
      const rise = riseOf(step(sigma, middle), 0.1)!;
      // From 10 to 90 % a Gaussian's edge takes 2.563 deviations.
      expect(Math.abs(rise.width / (2.5631 * sigma) - 1)).toBeLessThan(0.05);
      expect(rise.climb).toBeCloseTo(0.5, 3);
      expect(rise.overshoot.light).toBeLessThan(0.2);
      const falling = riseOf(step(sigma, middle).reverse(), 0.1)!;
      expect(falling.width).toBeCloseTo(rise.width, 6);
    }
  });

  it('goes beyond its grounds by what swings beside it', () => {
    const line = step(0.8, 20).map((value, i) => value + (i === 24 ? 0.06 : i === 15 ? -0.03 : 0));
    const { overshoot, width } = riseOf(line, 0.1)!;
    expect(overshoot.light).toBeCloseTo(12, 0);
    expect(overshoot.dark).toBeCloseTo(6, 0);
    expect(width).toBeLessThan(3);
    const falling = riseOf([...line].reverse(), 0.1)!;
    expect(falling.overshoot.light).toBeCloseTo(overshoot.light, 6);
  });

  it('is none where it is short or hardly climbs', () => {
    expect(riseOf([0, 0, 1, 1], 0.1)).toBeNull();
    expect(riseOf(new Float32Array(20).fill(0.4), 0.1)).toBeNull();
    expect(riseOf(step(1, 20), 0.6)).toBeNull();
    expect(
      riseOf(
        step(1, 20).map(() => Number.NaN),
        0.1,
      ),
    ).toBeNull();
  });
});

describe('the steepest edge of a line', () => {
  const line = (of: (i: number) => number, length = 100) =>
    Float32Array.from({ length }, (_, i) => of(i));
  /** A ramp of so many samples about a place, from 0 to 1. */
  const ramp = (i: number, at: number, width: number) =>
    Math.min(1, Math.max(0, (i - at) / width + 0.5));

  it('is all of a line that crosses one, whatever rings beside it', () => {
    const plain = line((i) => 40 + 160 * ramp(i, 50, 6));
    expect(steepestEdge(plain)).toEqual(plain);
    const ringing = line(
      (i) =>
        40 +
        160 * ramp(i, 50, 4) +
        50 * Math.exp(-(((i - 55) / 2) ** 2)) -
        50 * Math.exp(-(((i - 45) / 2) ** 2)),
    );
    expect(steepestEdge(ringing)).toEqual(ringing);
  });

  it('is one side of a bar, as steep as it would be alone', () => {
    for (const turned of [1, -1])
      for (const [first, second] of [
        [4, 12],
        [12, 4],
      ] as const) {
        const bar = line((i) => 120 + turned * 80 * (ramp(i, 35, first) - ramp(i, 65, second)));
        const edge = steepestEdge(bar);
        expect(edge.length).toBeGreaterThan(30);
        expect(edge.length).toBeLessThan(75);
        const rise = riseOf(edge, 10)!;
        expect(rise.climb).toBeCloseTo(80, 0);
        expect(rise.width).toBeCloseTo(0.8 * 4, 0);
        expect(Math.max(rise.overshoot.light, rise.overshoot.dark)).toBeLessThan(1);
      }
  });

  it('is the whole of what is level, or has one value', () => {
    expect(steepestEdge(line(() => 7))).toHaveLength(100);
    expect(steepestEdge(line(() => 7, 1))).toHaveLength(1);
    expect(steepestEdge(line(() => 7, 0))).toHaveLength(0);
  });
});
