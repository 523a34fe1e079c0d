import { describe, expect, it } from 'vitest';
import { cut, emptyRaster, type Raster, type Window } from '../raster/raster';
import { whole, type Region } from '../raster/region';
import { random, testPicture } from '../testing';
import { LATTICE_REACH, withoutLattice } from './checkerboard';
import { RGB } from '../raster/form';

const covered: Region = { x: -12, y: 4, width: 71, height: 66 };
const region: Region = { x: 0, y: 16, width: 45, height: 40 };
const over = (raster: Raster): Window => ({ region: covered, raster });

/** One channel three times, as a function of the place. */
function drawn(value: (x: number, y: number) => number): Window {
  const raster = emptyRaster(covered.width, covered.height, RGB);
  raster.planes.forEach((plane) => {
    for (let i = 0; i < plane.length; i++) {
      plane[i] = value(covered.x + (i % covered.width), covered.y + Math.floor(i / covered.width));
    }
  });
  return over(raster);
}

/** What five values have in common. */
const common = (values: number[]) =>
  Math.max(0, Math.min(...values)) + Math.min(0, Math.max(...values));

/** The formula, written down for one plane in double precision: along rows, then along columns. */
function reference(plane: Float32Array): (x: number, y: number) => number {
  type Picture = (x: number, y: number) => number;
  const less = (is: Picture, dx: number, dy: number): Picture => {
    const beyond: Picture = (x, y) => {
      const at = (k: number) => is(x + k * dx, y + k * dy);
      return at(0) - (at(-2) + 2 * at(-1) + 2 * at(0) + 2 * at(1) + at(2)) / 8;
    };
    return (x, y) =>
      is(x, y) - common([-8, -4, 0, 4, 8].map((k) => beyond(x + k * dx, y + k * dy)));
  };
  const is: Picture = (x, y) => plane[(y - covered.y) * covered.width + x - covered.x]!;
  return less(less(is, 1, 0), 0, 1);
}

describe('the pattern of a network’s squares', () => {
  it('is taken out by the formula', () => {
    const next = random(3);
    const ripple = [0.02, -0.01, 0.015, -0.025];
    const picture = testPicture(covered, 3);
    picture.planes.forEach((plane) =>
      plane.forEach((value, i) => {
        const x = i % covered.width;
        plane[i] = 0.2 * value + ripple[x % 4]! + 0.004 * (next() - 0.5);
      }),
    );
    const found = withoutLattice(over(picture), region);
    found.planes.forEach((plane, c) => {
      const expected = reference(picture.planes[c]!);
      for (let y = 0; y < region.height; y += 3)
        for (let x = 0; x < region.width; x++) {
          const value = expected(region.x + x, region.y + y);
          expect(Math.abs(plane[y * region.width + x]! - value)).toBeLessThan(1e-6);
        }
    });
  });

  it.each([
    ['along rows', (x: number) => x],
    ['along columns', (_: number, y: number) => y],
  ])('is gone where it stands on a slow ramp, %s', (_, along) => {
    const ripple = [0.03, -0.02, 0.01, -0.02];
    const ramp = (x: number, y: number) => 0.002 * x - 0.001 * y;
    const found = withoutLattice(
      drawn((x, y) => ramp(x, y) + ripple[((along(x, y) % 4) + 4) % 4]!),
      region,
    );
    found.planes[1]!.forEach((value, i) => {
      const expected = ramp(region.x + (i % region.width), region.y + Math.floor(i / region.width));
      expect(Math.abs(value - expected)).toBeLessThan(1e-6);
    });
  });

  it.each<[string, (x: number, y: number) => number]>([
    ['an edge', (x) => (x < 20 ? 0.1 : 0.8)],
    ['a slanted edge', (x, y) => (3 * x + y < 90 ? 0.1 : 0.8)],
    ['a line of one pixel', (_, y) => (y === 30 ? 1 : 0)],
    ['a spot', (x, y) => (x === 20 && y === 30 ? 1 : 0)],
    ['three stripes at the squares’ own pitch', (x) => ([16, 20, 24].includes(x) ? 1 : 0)],
    ['stripes at another pitch', (x) => (x % 7 === 0 ? 1 : 0)],
  ])('is not what stands alone: %s stays to the bit', (_, value) => {
    const picture = drawn(value);
    expect(withoutLattice(picture, region)).toEqual(cut(picture, region));
  });

  it('is told alike wherever a part begins', () => {
    const picture = over(testPicture(covered, 8));
    const all = { region, raster: withoutLattice(picture, region) };
    const part = { x: 13, y: 21, width: 18, height: 11 };
    expect(withoutLattice(picture, part)).toEqual(cut(all, part));
  });

  it('needs so much about a region', () => {
    const picture = over(testPicture(covered, 8));
    const most = {
      x: covered.x + LATTICE_REACH,
      y: covered.y + LATTICE_REACH,
      width: covered.width - 2 * LATTICE_REACH,
      height: covered.height - 2 * LATTICE_REACH,
    };
    expect(withoutLattice(picture, most).width).toBe(most.width);
    expect(() => withoutLattice(picture, { ...most, x: most.x - 1 })).toThrow(RangeError);
    expect(() => withoutLattice(picture, whole(covered))).toThrow('too little about the region');
  });
});
