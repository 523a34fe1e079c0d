import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { emptyRaster } from '../raster/raster';
import { random } from '../testing';
import { bounded } from './bounded';
import { cornersOf } from './corners';
import { solve } from './solve';
import { wavinessOf } from './waviness';

/** Points about a pixel apart along straight pieces between places. */
function along(places: readonly (readonly [number, number])[], closed: boolean): Float64Array {
  const points: number[] = [];
  const all = closed ? [...places, places[0]!] : places;
  for (let i = 1; i < all.length; i++) {
    const [[x, y], [toX, toY]] = [all[i - 1]!, all[i]!];
    const steps = Math.round(Math.hypot(toX - x, toY - y));
    for (let k = 0; k < steps; k++)
      points.push(x + ((toX - x) * k) / steps, y + ((toY - y) * k) / steps);
  }
  if (!closed) points.push(...all.at(-1)!);
  return Float64Array.from(points);
}

const round = (radius: number, count: number) =>
  Float64Array.from({ length: 2 * count }, (_, i) => {
    const angle = (2 * Math.PI * (i >> 1)) / count;
    return i % 2 === 0 ? radius * Math.cos(angle) : radius * Math.sin(angle);
  });

describe('corners of a line of points', () => {
  it.each([
    [
      'a square',
      [
        [0, 0],
        [30, 0],
        [30, 30],
        [0, 30],
      ],
    ],
    [
      'a triangle',
      [
        [0, 0],
        [40, 4],
        [14, 33],
      ],
    ],
    [
      'an arrow',
      [
        [0, 0],
        [40, 20],
        [0, 40],
        [12, 20],
      ],
    ],
  ] as [string, [number, number][]][])('are found where they are: %s', (_, places) => {
    const found = cornersOf(along(places, true), true);
    expect(found).toHaveLength(places.length);
    for (const [x, y] of places)
      expect(Math.min(...found.map((one) => Math.hypot(one.x - x, one.y - y)))).toBeLessThan(0.3);
  });

  it('are none on a circle, however small, or on a straight line', () => {
    for (const radius of [6, 12, 40])
      expect(cornersOf(round(radius, Math.round(2 * Math.PI * radius)), true)).toEqual([]);
    expect(
      cornersOf(
        along(
          [
            [0, 0],
            [50, 20],
          ],
          false,
        ),
        false,
      ),
    ).toEqual([]);
  });

  it('are found though the line is a little off', () => {
    const next = random(5);
    const points = along(
      [
        [0, 0],
        [30, 0],
        [30, 30],
      ],
      false,
    ).map((v) => v + 0.2 * (next() - 0.5));
    const [corner, ...more] = cornersOf(points, false);
    expect(more).toEqual([]);
    expect(Math.hypot(corner!.x - 30, corner!.y)).toBeLessThan(0.6);
  });

  it('are none of few points', () => {
    for (const count of [0, 1, 2, 5])
      expect(cornersOf(new Float64Array(2 * count), true)).toEqual([]);
  });
});

describe('a system of equations', () => {
  it('is solved, whatever the order of its rows', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 9999 }),
        (size, seed) => {
          const next = random(seed);
          const matrix = Float64Array.from({ length: size * size }, () => 2 * next() - 1);
          const expected = Float64Array.from({ length: size }, () => 10 * next() - 5);
          const sides = expected.map((_, row) =>
            expected.reduce((sum, value, k) => sum + matrix[row * size + k]! * value, 0),
          );
          const before = [matrix.slice(), sides.slice()];
          const found = solve(matrix, sides);
          // What is nearly singular is nobody's to tell.
          if (found === null) return;
          found.forEach((_, row) => {
            const sum = found.reduce((all, value, k) => all + matrix[row * size + k]! * value, 0);
            expect(Math.abs(sum - sides[row]!)).toBeLessThan(1e-5);
          });
          expect([matrix, sides]).toEqual(before);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('needs another row first where its own has nothing there', () => {
    expect([...solve(Float64Array.of(0, 2, 3, 0), Float64Array.of(4, 9))!]).toEqual([3, 2]);
  });

  it('without one solution has none', () => {
    expect(solve(Float64Array.of(1, 2, 2, 4), Float64Array.of(1, 2))).toBeNull();
    expect(solve(new Float64Array(9), new Float64Array(3))).toBeNull();
  });
});

describe('how wavy a line is', () => {
  const line = (off: (i: number) => number) =>
    Array.from({ length: 120 }, (_, i) => [i, 0.002 * i * i + off(i)] as const);

  it('is nothing of a smooth one, however bent', () => {
    expect(
      wavinessOf(
        line(() => 0),
        [0, 119],
      ),
    ).toBeLessThan(1e-6);
  });

  it('is what its points are off a smooth one', () => {
    const next = random(8);
    const waves = wavinessOf(
      line(() => next() - 0.5),
      [0, 119],
    );
    // Of numbers evenly spread over 1, a cubic takes some away.
    expect(waves).toBeGreaterThan(0.2);
    expect(waves).toBeLessThan(0.3);
    expect(
      wavinessOf(
        line((i) => 0.3 * (i % 2)),
        [0, 119],
      ),
    ).toBeGreaterThan(0.1);
  });

  it('does not mean its corners', () => {
    const bent = Array.from({ length: 81 }, (_, i) => [i, i < 40 ? 0 : 3 * (i - 40)] as const);
    expect(wavinessOf(bent, [0, 40, 80])).toBeLessThan(1e-6);
    expect(wavinessOf(bent.slice(30, 52), [0, 21])).toBeGreaterThan(0.5);
  });

  it('is nothing of a line that is shorter than what is looked at', () => {
    expect(wavinessOf(line(() => 0).slice(0, 8), [0, 7])).toBe(0);
  });
});

describe('what a network swings', () => {
  const raster = (width: number, height: number, seed: number) => {
    const next = random(seed);
    const made = emptyRaster(width, height, RGB);
    for (const plane of made.planes)
      for (let i = 0; i < plane.length; i++) plane[i] = 1.6 * next() - 0.3;
    return made;
  };

  it('is held to 0–1 at the pixels’ own size', () => {
    const made = raster(9, 7, 1);
    bounded(made, 1).planes.forEach((plane, c) =>
      plane.forEach((value, i) => {
        const expected = Math.fround(Math.min(1, Math.max(0, made.planes[c]![i]!)));
        expect(value).toBe(expected);
      }),
    );
  });

  it.each([2, 3, 4])('is held to the range of the pixels about it, %d to one', (pixel) => {
    const [across, down] = [5, 4];
    const made = raster(across * pixel, down * pixel, pixel);
    const held = bounded(made, pixel);
    made.planes.forEach((plane, c) => {
      const mean = (u: number, v: number) => {
        let sum = 0;
        for (let y = v * pixel; y < (v + 1) * pixel; y++)
          for (let x = u * pixel; x < (u + 1) * pixel; x++) sum += plane[y * made.width + x]!;
        return Math.min(1, Math.max(0, sum / pixel / pixel));
      };
      for (let y = 0; y < made.height; y++)
        for (let x = 0; x < made.width; x++) {
          const about: number[] = [];
          for (let v = -1; v <= 1; v++)
            for (let u = -1; u <= 1; u++) {
              const [i, j] = [Math.floor(x / pixel) + u, Math.floor(y / pixel) + v];
              if (i >= 0 && j >= 0 && i < across && j < down) about.push(mean(i, j));
            }
          const own = plane[y * made.width + x]!;
          const expected = Math.min(Math.max(...about), Math.max(Math.min(...about), own));
          expect(held.planes[c]![y * made.width + x]).toBeCloseTo(expected, 5);
        }
    });
  });
});
