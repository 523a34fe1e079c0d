import { describe, expect, it } from 'vitest';
import { dithered, TILE } from './dither';
import { RGB } from './form';
import { emptyRaster, type Raster } from './raster';
import { toSamples } from './samples';

const flat = (value: number, width = TILE, height = TILE): Raster => {
  const raster = emptyRaster(width, height, RGB);
  raster.planes.forEach((plane) => plane.fill(value / 255));
  return raster;
};
const mean = (samples: ArrayLike<number>) =>
  Array.from(samples).reduce((sum, one) => sum + one, 0) / samples.length;

describe('dithering', () => {
  it('keeps on the mean what is finer than a level', () => {
    for (const value of [17.1, 100.25, 100.5, 200.93]) {
      const samples = toSamples(dithered(flat(value), { x: 0, y: 0 }), 8);
      expect(mean(samples)).toBeCloseTo(value, 2);
      expect(new Set(samples).size).toBe(2);
    }
  });

  it('leaves whole levels as they are', () => {
    for (const value of [0, 1, 128, 255]) {
      const samples = toSamples(dithered(flat(value), { x: 5, y: 9 }), 8);
      expect(new Set(samples)).toEqual(new Set([value]));
    }
  });

  it('gives a pixel the same level whichever region it is read in', () => {
    const whole = toSamples(dithered(flat(90.4, 100, 80), { x: 0, y: 0 }), 8);
    const part = toSamples(dithered(flat(90.4, 30, 20), { x: 61, y: 55 }), 8);
    for (let y = 0; y < 20; y++) {
      const at = ((55 + y) * 100 + 61) * 3;
      expect(part.subarray(y * 90, (y + 1) * 90)).toEqual(whole.subarray(at, at + 90));
    }
  });

  it('spreads evenly: neighbours differ more than those of white noise would', () => {
    const samples = toSamples(dithered(flat(50.5), { x: 0, y: 0 }), 8);
    let same = 0;
    for (let i = 0; i + 3 < samples.length; i += 3) if (samples[i] === samples[i + 3]) same++;
    // Half of them by chance.
    expect(same / (samples.length / 3)).toBeLessThan(0.4);
    // Colours have patterns of their own.
    const alike = samples.filter((v, i) => i % 3 === 0 && v === samples[i + 1]).length;
    expect(alike / (samples.length / 3)).toBeLessThan(0.6);
  });
});
