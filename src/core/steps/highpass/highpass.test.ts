import { describe, expect, it } from 'vitest';
import { luminance } from '../../raster/colour';
import { whole } from '../../raster/region';
import { nothingBeside, testPicture } from '../../testing';
import { gaussianReference } from '../../testing/references';
import { BLENDED, BLENDS } from './blends';
import { highpass } from './highpass';

const size = { width: 40, height: 24 };
const picture = testPicture(size, 3);
const luma = luminance(picture);
const run = async (numbers: Parameters<typeof highpass.apply>[1]) =>
  highpass.apply(
    { region: whole(size), raster: picture },
    numbers,
    whole(size),
    { from: size, to: size },
    nothingBeside,
  );

describe('high-pass', () => {
  it.each(BLENDS)('blended as %s agrees with double precision', async (blend) => {
    const result = await run({ radius: 2.2, blend, layer: false });
    const soft = gaussianReference(luma, size, 2.2);
    for (let i = 0; i < luma.length; i++) {
      const backdrop = Math.min(1, Math.max(0, luma[i]!));
      const layer = Math.min(1, Math.max(0, luma[i]! - soft[i]! + 0.5));
      const plus = BLENDED[blend](backdrop, layer) - backdrop;
      for (let c = 0; c < 3; c++) {
        expect(Math.abs(result.planes[c]![i]! - picture.planes[c]![i]! - plus)).toBeLessThan(1e-5);
      }
    }
  });

  it('shows its layer about middle grey', async () => {
    const { planes } = await run({ radius: 2.2, blend: 'overlay', layer: true });
    const soft = gaussianReference(luma, size, 2.2);
    for (let i = 0; i < luma.length; i++) {
      expect(planes[0]![i]).toBeCloseTo(luma[i]! - soft[i]! + 0.5, 5);
      expect(planes[2]![i]).toBe(planes[0]![i]);
    }
  });
});

describe('blends', () => {
  it.each(BLENDS)('%s changes nothing under middle grey', (blend) => {
    for (const backdrop of [0, 0.1, 0.25, 0.5, 0.8, 1]) {
      expect(BLENDED[blend](backdrop, 0.5)).toBeCloseTo(backdrop, 12);
    }
  });

  it('are what their standards say at chosen places', () => {
    expect(BLENDED.overlay(0.25, 0.8)).toBeCloseTo(0.4, 12);
    expect(BLENDED.overlay(0.75, 0.8)).toBeCloseTo(0.9, 12);
    expect(BLENDED['soft light'](0.16, 1)).toBeCloseTo(0.16 * (0.16 * (16 * 0.16 - 12) + 4), 12);
    expect(BLENDED['soft light'](0.64, 1)).toBeCloseTo(0.8, 12);
    expect(BLENDED['soft light'](0.64, 0)).toBeCloseTo(0.64 * 0.64, 12);
    expect(BLENDED['linear light'](0.4, 0.7)).toBeCloseTo(0.8, 12);
  });
});
