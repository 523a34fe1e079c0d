import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { jpegDamage, suggestedQuality, worst, type JpegCost } from './jpeg-cost';

const width = 64;
const count = width * 48;

/** A picture with hard edges of its own, some on the borders of blocks. */
const picture = Uint8Array.from({ length: 3 * count }, (_, i) => {
  const x = Math.floor(i / 3) % width;
  return x < 24 ? 40 : x < 37 ? 200 : 120;
});

describe('what a JPEG did', () => {
  it('is nothing where nothing was changed, whatever edges the picture has', () => {
    expect(jpegDamage(picture, picture, width)).toEqual({ psnr: 60, blocking: 0 });
  });

  it('is blocks where each block was lifted on its own', () => {
    const next = random(3);
    const lifts = Float32Array.from({ length: 48 }, () => Math.round(8 * (next() - 0.5)));
    const blocky = picture.map((v, i) => {
      const at = Math.floor(i / 3);
      const block = Math.floor((at % width) / 8) + 8 * Math.floor(at / width / 8);
      return v + lifts[block]!;
    });
    const { blocking, psnr } = jpegDamage(picture, blocky, width);
    expect(blocking).toBeGreaterThan(1.5);
    expect(psnr).toBeLessThan(42);
  });

  it('is no block where noise lies everywhere', () => {
    const next = random(5);
    const noisy = picture.map((v) => v + Math.round(10 * (next() - 0.5)));
    const { blocking, psnr } = jpegDamage(picture, noisy, width);
    expect(blocking).toBeLessThan(0.4);
    expect(psnr).toBeCloseTo(10 * Math.log10((255 * 255) / (100 / 12)), 0);
  });
});

it('of several places the worst counts', () => {
  const places = [
    { psnr: 50, blocking: 0.4 },
    { psnr: 41, blocking: 0 },
  ];
  expect(worst(places)).toEqual({ psnr: 41, blocking: 0.4 });
});

describe('the suggested quality', () => {
  const cost = (quality: number, psnr: number, blocking: number): JpegCost => ({
    ...{ quality, psnr, blocking, bytes: 1 },
  });

  it('is the lowest from which on nothing shows, with what shows below it', () => {
    const costs = [cost(60, 36, 2), cost(90, 46, 0.1), cost(80, 45, 0.8), cost(100, 55, 0)];
    const found = suggestedQuality(costs)!;
    expect(found.quality).toBe(90);
    expect(found.reason).toMatch(/From 90 .* at 80 steps of 0\.8 levels come back at block edges/);
    // One that is good by chance below a bad one does not count.
    expect(suggestedQuality([cost(50, 45, 0), ...costs])!.quality).toBe(90);
    expect(suggestedQuality([cost(70, 40, 0.1), cost(90, 46, 0.1)])!.reason).toMatch(/40 dB/);
    expect(suggestedQuality([cost(70, 50, 0.1)])!.reason).toMatch(/Even at 70/);
  });

  it('is none where all show', () => {
    expect(suggestedQuality([cost(90, 30, 3)])).toBeNull();
    expect(suggestedQuality([])).toBeNull();
  });
});
