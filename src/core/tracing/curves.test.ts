import { describe, expect, it } from 'vitest';
import { angleOf } from '../raster/portable-math';
import { curvesThrough } from './curves';
import { wavinessOf } from './waviness';

type Point = [number, number];
const line = (count: number, y: (i: number) => number): Point[] =>
  Array.from({ length: count }, (_, i) => [i, y(i)]);

describe('curves through points', () => {
  it('are one straight piece where points are straight but for unrest', () => {
    const curve = curvesThrough(
      line(40, (i) => 3 + 0.05 * (i % 2)),
      false,
      0.08,
    );
    expect(curve).toHaveLength(6);
  });

  it('keep as near to a bow as they are told, in pieces that meet', () => {
    const bow = line(60, (i) => 12 * Math.sin((Math.PI * i) / 59));
    const curve = curvesThrough(bow, false, 0.1);
    expect(curve.length % 6).toBe(0);
    expect(curve.slice(-2)).toEqual(bow.at(-1));
    // Its highest point is where the bow's is.
    expect(Math.max(...curve.filter((_, i) => i % 2 === 1))).toBeGreaterThan(11);
  });
});

describe('unrest of a line', () => {
  it('is none of a straight or an evenly bent one, and some of a wavy one', () => {
    const ends = [0, 59];
    expect(
      wavinessOf(
        line(60, (i) => 2 * i),
        ends,
      ),
    ).toBeLessThan(1e-6);
    expect(
      wavinessOf(
        line(60, (i) => 0.01 * i * i),
        ends,
      ),
    ).toBeLessThan(1e-6);
    expect(
      wavinessOf(
        line(60, (i) => 0.3 * Math.sin(i)),
        ends,
      ),
    ).toBeGreaterThan(0.15);
  });
});

it('tells angles as the engine does, to a ten-millionth', () => {
  for (let k = -31; k <= 31; k++) {
    const [x, y] = [3 * Math.cos(k / 10), 3 * Math.sin(k / 10)];
    expect(Math.abs(angleOf(x, y) - Math.atan2(y, x))).toBeLessThan(1e-7);
  }
  expect(angleOf(0, 0)).toBe(0);
});
