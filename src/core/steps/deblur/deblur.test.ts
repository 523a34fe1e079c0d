import { describe, expect, it } from 'vitest';
import { LIGHTNESS } from '../../raster/form';
import { emptyRaster, type Raster } from '../../raster/raster';
import { grow, whole, type Size } from '../../raster/region';
import { nothingBeside, random, testContext, testPicture } from '../../testing';
import { luminance } from '../../raster/colour';
import { beyondReach, deblur } from './deblur';
import { inverseOf, inverseReach } from './inverse';
import { pointSpread, type Spread, type Taps } from './point-spread';
import { restored, restoreReach } from './restore';

const spreads: Spread[] = [
  { form: 'gaussian', radius: 0.8 },
  { form: 'gaussian', radius: 2 },
  { form: 'disc', radius: 2.5 },
  { form: 'motion', length: 7, angle: 25 },
];

/** What weights about a pixel leave of a pattern of a frequency, in periods a pixel. */
function left({ side, weights }: Taps, fx: number, fy: number): number {
  const reach = (side - 1) / 2;
  return weights.reduce((sum, weight, i) => {
    const [x, y] = [(i % side) - reach, Math.floor(i / side) - reach];
    return sum + weight * Math.cos(2 * Math.PI * (fx * x + fy * y));
  }, 0);
}

describe.each(spreads)('the inverse of %j', (spread) => {
  const blurring = pointSpread(spread);
  const inverse = inverseOf(spread, 0.03);

  it('leaves flat areas as they are, and looks as far as it says', () => {
    expect(left(blurring, 0, 0)).toBeCloseTo(1, 12);
    expect(left(inverse, 0, 0)).toBeCloseTo(1, 12);
    expect(inverse.side).toBe(2 * inverseReach(spread) + 1);
  });

  it('brings patterns back that the blur left something of, and overdoes none by more than a third', () => {
    for (const [fx, fy] of [
      [0.05, 0],
      [0, 0.09],
      [0.1, 0.1],
      [0.2, 0],
      [0.3, 0.2],
      [0.5, 0.5],
    ] as const) {
      const was = left(blurring, fx, fy);
      const now = was * left(inverse, fx, fy);
      expect(now).toBeLessThan(1.34);
      if (Math.abs(was) > 0.5) expect(now).toBeGreaterThan(0.8);
    }
  });
});

/** The same in double precision, pixel by pixel, by the formulas. */
function reference(luma: Float32Array, size: Size, { side, weights }: Taps, noise: number) {
  const reach = (side - 1) / 2;
  const at = (x: number, y: number) =>
    luma[
      Math.min(size.height - 1, Math.max(0, y)) * size.width +
        Math.min(size.width - 1, Math.max(0, x))
    ]!;
  const change = Float64Array.from(luma, (own, i) => {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    let sum = 0;
    for (let v = 0; v < side; v++)
      for (let u = 0; u < side; u++) {
        sum += weights[v * side + u]! * at(x + u - reach, y + v - reach);
      }
    return sum - own;
  });
  const gain = weights.reduce(
    (sum, weight, i) => sum + (i === (side * side - 1) / 2 ? weight - 1 : weight) ** 2,
    0,
  );
  const least = 2 * noise * noise * gain;
  return change.map((value, i) => {
    const pixel = { x: i % size.width, y: Math.floor(i / size.width), width: 1, height: 1 };
    const about = grow(pixel, 2, size);
    let power = 0;
    for (let y = about.y; y < about.y + about.height; y++)
      for (let x = about.x; x < about.x + about.width; x++)
        power += change[y * size.width + x]! ** 2;
    power /= about.width * about.height;
    return power > least ? value * (1 - least / power) : 0;
  });
}

describe('deblurring', () => {
  const size = { width: 60, height: 44 };

  it.each(spreads)('by %j agrees with double precision to half a level', (spread) => {
    const luma = luminance(testPicture(size, 6));
    const taps = inverseOf(spread, 0.05);
    const found = restored(luma, whole(size), whole(size), size, taps, 0.004);
    const expected = reference(luma, size, taps, 0.004);
    found.forEach((value, i) =>
      expect(Math.abs(value - luma[i]! - expected[i]!) * 255).toBeLessThan(0.5),
    );
    expect(restoreReach(taps)).toBe((taps.side - 1) / 2 + 2);
  });

  it('lets flat noise be', async () => {
    const next = random(4);
    const flat: Raster = emptyRaster(size.width, size.height, LIGHTNESS);
    for (let i = 0; i < size.width * size.height; i++) {
      const value = 0.5 + (next() + next() + next() - 1.5) * (2 / 255);
      for (const plane of flat.planes) plane[i] = value;
    }
    const context = testContext(size, {
      noise: { luma: 1, colour: 0 },
      blur: { width: 3, sigma: 1.2, motion: null, disc: null },
    });
    const numbers = deblur.resolve(deblur.defaults, context)!;
    const window = { region: whole(size), raster: flat };
    const grids = { from: size, to: size };
    const done = await deblur.apply(window, numbers, whole(size), grids, nothingBeside);
    const spread = (plane: Float32Array) =>
      Math.sqrt(plane.reduce((sum, value) => sum + (value - 0.5) ** 2, 0) / plane.length);
    expect(spread(done.planes[0]!)).toBeLessThan(1.35 * spread(flat.planes[0]!));
  });
});

describe('what is undone', () => {
  const size = { width: 90, height: 60 };
  const blur = { width: 3, sigma: 1.2, motion: null, disc: null };

  it('follows from what was measured', () => {
    const resolve = (found: Parameters<typeof testContext>[1]) =>
      deblur.resolve(deblur.defaults, testContext(size, found));
    expect(resolve({ blur: null })).toBeNull();
    expect(resolve({ blur: { ...blur, sigma: 0 } })).toBeNull();
    expect(resolve({ blur })!.spread).toEqual({ form: 'gaussian', radius: 1.2 });
    const moved = { ...blur, motion: { length: 5, angle: -40 } };
    expect(resolve({ blur: moved })!.spread).toEqual({ form: 'motion', length: 5, angle: 140 });
    const outOfFocus = { ...blur, disc: { radius: 3.25 } };
    expect(resolve({ blur: outOfFocus })!.spread).toEqual({ form: 'disc', radius: 3.25 });
  });

  it('is less the more noise there is, and the more is held back', () => {
    const calm = (luma: number, held: number) =>
      deblur.resolve(
        { ...deblur.defaults, calm: held },
        testContext(size, { blur, noise: { luma, colour: 0 } }),
      )!.calm;
    expect(calm(3, 50)).toBeGreaterThan(4 * calm(1, 50));
    expect(calm(1, 75)).toBeCloseTo(4 * calm(1, 50), 12);
  });

  it('is what was set by hand', () => {
    const by = (change: Partial<typeof deblur.defaults>) =>
      deblur.resolve({ ...deblur.defaults, ...change }, testContext(size, { blur }))!.spread;
    expect(by({ form: 'disc', radius: 'auto' })).toEqual({ form: 'disc', radius: 2.4 });
    const measured = { blur: { ...blur, disc: { radius: 3.25 } } };
    const disc = { ...deblur.defaults, form: 'disc' as const };
    expect(deblur.resolve(disc, testContext(size, measured))!.spread).toEqual({
      ...{ form: 'disc', radius: 3.25 },
    });
    expect(by({ form: 'gaussian', radius: 2 })).toEqual({ form: 'gaussian', radius: 2 });
    expect(by({ form: 'motion', length: 9, angle: 10 })).toEqual({
      form: 'motion',
      length: 9,
      angle: 10,
    });
  });

  it('is said to be wider than can be undone, where it is', () => {
    const settings = { ...deblur.defaults, form: 'gaussian' as const, radius: 1.2 };
    expect(beyondReach(settings, { blur }, 1)).toBeNull();
    const large = beyondReach(settings, { blur }, 8)!;
    expect(large.wide).toBeCloseTo(9.6, 9);
    expect(large.undone).toBe(4.5);
    const none = { ...deblur.defaults, form: 'measured' as const };
    expect(beyondReach(none, { blur: null }, 8)).toBeNull();
  });
});
