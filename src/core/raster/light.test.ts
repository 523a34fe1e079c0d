import { describe, expect, it } from 'vitest';
import { fromLight, toLight } from './light';
import { emptyRaster } from './raster';
import { LEVEL } from './samples';
import { RGB, RGBA } from './form';

const ramp = emptyRaster(300, 1, RGB);
ramp.planes.forEach((plane) => plane.forEach((_, i) => (plane[i] = (i - 20) / 255)));

describe('light', () => {
  it('follows the curve of sRGB, mirrored below zero', () => {
    const { planes } = toLight(ramp);
    ramp.planes[0]!.forEach((value, i) => {
      const at = Math.abs(value);
      const light = at <= 0.04045 ? at / 12.92 : ((at + 0.055) / 1.055) ** 2.4;
      expect(planes[0]![i]).toBeCloseTo(Math.sign(value) * light, 6);
    });
  });

  it('leads back to what was encoded, far below a level', () => {
    const back = fromLight(toLight(ramp));
    back.planes[1]!.forEach((value, i) =>
      expect(Math.abs(value - ramp.planes[1]![i]!)).toBeLessThan(LEVEL / 100),
    );
  });

  it('leaves alpha alone', () => {
    const raster = emptyRaster(2, 1, RGBA);
    raster.planes.forEach((plane) => plane.fill(0.5));
    expect([...toLight(raster).planes[3]!]).toEqual([0.5, 0.5]);
    expect([...fromLight(raster).planes[3]!]).toEqual([0.5, 0.5]);
  });
});
