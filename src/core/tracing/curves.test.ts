import { describe, expect, it } from 'vitest';
import { angleOf } from '../raster/portable-math';
import { random } from '../testing';
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

describe('curves through restless points of a circle', () => {
  const RADIUS = 60;
  const next = random(11);
  const count = Math.round(2 * Math.PI * RADIUS);
  // Unrest that lasts for some points, as a network leaves it; a curve may be as far off as that is at most.
  const unrest = Array.from({ length: count }, () => next() - 0.5);
  const points = unrest.map((_, i): Point => {
    const off = [0, 1, 2].reduce((sum, k) => sum + unrest[(i + k) % count]! / 3, 0);
    const angle = (2 * Math.PI * i) / count;
    return [(RADIUS + off) * Math.cos(angle), (RADIUS + off) * Math.sin(angle)];
  });
  const curve = [...points[0]!, ...curvesThrough([...points, points[0]!], true, 0.45)];

  /** Deviations of points from the circle, root mean square. */
  const rms = (all: readonly Point[]) => {
    const offs = all.map(([x, y]) => Math.hypot(x, y) - RADIUS);
    const mean = offs.reduce((sum, off) => sum + off, 0) / offs.length;
    return Math.sqrt(offs.reduce((sum, off) => sum + (off - mean) ** 2, 0) / offs.length);
  };

  // They are parted where points are farthest off.
  it('meet nearer to it than the points are', () => {
    const knots: Point[] = [];
    for (let i = 6; i + 1 < curve.length - 6; i += 6) knots.push([curve[i]!, curve[i + 1]!]);
    expect(knots.length).toBeGreaterThan(4);
    expect(rms(knots)).toBeLessThan(0.8 * rms(points));
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
