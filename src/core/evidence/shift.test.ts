import { describe, expect, it } from 'vitest';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import { memorySource, random, testPicture } from '../testing';
import { findShift, SHIFT_SIDE, shiftBetween } from './shift';

const SCENE = testPicture({ width: 900, height: 700 }, 3);

/** A square of the scene from a place on, each pixel changed. */
function square(x0: number, y0: number, change: (value: number) => number = (v) => v): Raster {
  const raster = emptyRaster(SHIFT_SIDE, SHIFT_SIDE, RGB);
  const inside = (at: number, side: number) => Math.min(side - 1, Math.max(0, at));
  for (let y = 0, i = 0; y < SHIFT_SIDE; y++)
    for (let x = 0; x < SHIFT_SIDE; x++, i++) {
      const at = inside(y0 + y, SCENE.height) * SCENE.width + inside(x0 + x, SCENE.width);
      for (let c = 0; c < 3; c++) raster.planes[c]![i] = change(SCENE.planes[c]![at]!);
    }
  return raster;
}

describe('how far one picture must be moved to lie on another', () => {
  it('is found in either direction', () => {
    for (const [x, y] of [
      [0, 0],
      [1, 0],
      [-7, 12],
      [40, -31],
      [-40, -40],
    ] as const) {
      // What lies at 300 in one lies at 300 - x in the other's square.
      const shift = shiftBetween(square(300, 200), square(300 + x, 200 + y));
      expect(shift!.x).toBeCloseTo(x, 1);
      expect(shift!.y).toBeCloseTo(y, 1);
    }
  });

  it('is found through noise, another contrast and another brightness', () => {
    const noise = random(11);
    const worse = (value: number) => 0.3 + 0.5 * value + 0.04 * (noise() - 0.5);
    const shift = shiftBetween(square(300, 200), square(312, 195, worse))!;
    expect(Math.hypot(shift.x - 12, shift.y + 5)).toBeLessThan(0.2);
  });

  it('is found to a part of a pixel', () => {
    // The same scene, drawn twice from what it is made of.
    const drawn = (dx: number, dy: number): Raster => {
      const raster = emptyRaster(SHIFT_SIDE, SHIFT_SIDE, RGB);
      const dots = random(5);
      const places = Array.from({ length: 90 }, () => [256 * dots(), 256 * dots(), 0.3 + dots()]);
      for (let y = 0, i = 0; y < SHIFT_SIDE; y++)
        for (let x = 0; x < SHIFT_SIDE; x++, i++) {
          let value = 0;
          for (const [u, v, high] of places) {
            const off = (x - dx - u!) ** 2 + (y - dy - v!) ** 2;
            if (off < 60) value += high! * Math.exp(-off / 6);
          }
          for (let c = 0; c < 3; c++) raster.planes[c]![i] = value;
        }
      return raster;
    };
    const shift = shiftBetween(drawn(0.4, -0.3), drawn(0, 0))!;
    expect(shift.x).toBeCloseTo(0.4, 1);
    expect(shift.y).toBeCloseTo(-0.3, 1);
  });

  it('is not told where there is nothing to tell it by', () => {
    const plain = square(0, 0, () => 0.5);
    expect(shiftBetween(plain, plain)).toBeNull();
    const one = random(1);
    const two = random(2);
    const noisy = (of: () => number) => square(0, 0, () => of());
    expect(shiftBetween(noisy(one), noisy(two))).toBeNull();
    expect(() => shiftBetween(plain, emptyRaster(8, 8, RGB))).toThrow(RangeError);
  });

  it('is found over a whole paper: small first, then at its own pixels', async () => {
    const by = { x: -23, y: 9 };
    const small = (dx: number, dy: number): Raster => {
      const raster = emptyRaster(SHIFT_SIDE, SHIFT_SIDE, RGB);
      const [across, down] = [SCENE.width / SHIFT_SIDE, SCENE.height / SHIFT_SIDE];
      for (let y = 0, i = 0; y < SHIFT_SIDE; y++)
        for (let x = 0; x < SHIFT_SIDE; x++, i++) {
          const at = (v: number, side: number) => Math.min(side - 1, Math.max(0, Math.round(v)));
          const from =
            at(y * down + dy, SCENE.height) * SCENE.width + at(x * across + dx, SCENE.width);
          for (let c = 0; c < 3; c++) raster.planes[c]![i] = SCENE.planes[c]![from]!;
        }
      return raster;
    };
    const result = { small: memorySource(small(0, 0)), own: memorySource(SCENE) };
    const other = { small: memorySource(small(by.x, by.y)) };
    const read = (x: number, y: number) => Promise.resolve(square(x + by.x, y + by.y));
    const shift = (await findShift(result, other, read))!;
    expect(Math.hypot(shift.x - by.x, shift.y - by.y)).toBeLessThan(0.2);
    expect(shift.spread).toBeLessThan(0.5);
    // One that is a little larger lies off more and more.
    const larger = (x: number, y: number) =>
      Promise.resolve(square(Math.round(x * 1.03), Math.round(y * 1.03)));
    expect((await findShift(result, { small: result.small }, larger))!.spread).toBeGreaterThan(3);
  });
});
