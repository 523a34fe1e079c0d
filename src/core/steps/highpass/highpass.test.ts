import { describe, expect, it } from 'vitest';
import { whole } from '../../raster/region';
import { luminanceWindow, nothingBeside, testPicture } from '../../testing';
import { BLEND_REFERENCES, gaussianReference } from '../../testing/references';
import { BLENDS, highpass } from './highpass';

const size = { width: 42, height: 24 };
const input = luminanceWindow(testPicture(size, 3));
const [luma] = input.raster.planes as [Float32Array];
// What came out of range on the way is told apart from what is white.
luma[100] = 1.04;
luma[200] = -0.03;
const run = async (numbers: Parameters<typeof highpass.apply>[1]): Promise<Float32Array> => {
  const grids = { from: size, to: size };
  const result = await highpass.apply(input, numbers, whole(size), grids, nothingBeside);
  return result.planes[0]!;
};

describe('high-pass', () => {
  it.each(BLENDS)('blended as %s agrees with double precision', async (blend) => {
    const result = await run({ radius: 2.2, blend, layer: false });
    const soft = gaussianReference(luma, size, 2.2);
    for (let i = 0; i < luma.length; i++) {
      const backdrop = Math.min(1, Math.max(0, luma[i]!));
      const layer = Math.min(1, Math.max(0, luma[i]! - soft[i]! + 0.5));
      const plus = BLEND_REFERENCES[blend]!(backdrop, layer) - backdrop;
      expect(Math.abs(result[i]! - luma[i]! - plus)).toBeLessThan(1e-5);
    }
  });

  it('shows its layer about middle grey', async () => {
    const result = await run({ radius: 2.2, blend: 'overlay', layer: true });
    const soft = gaussianReference(luma, size, 2.2);
    for (let i = 0; i < luma.length; i++) {
      expect(result[i]).toBeCloseTo(Math.min(1, Math.max(0, luma[i]! - soft[i]! + 0.5)), 5);
    }
  });

  it.each(BLENDS)('changes nothing where the picture is even, as %s', async (blend) => {
    for (const tone of [0, 0.1, 0.25, 0.5, 0.8, 1]) {
      const even = { ...input, raster: { ...input.raster, planes: [luma.map(() => tone)] } };
      const result = await highpass.apply(
        even,
        { radius: 2, blend, layer: false },
        whole(size),
        { from: size, to: size },
        nothingBeside,
      );
      for (const value of result.planes[0]!) expect(value).toBeCloseTo(tone, 6);
    }
  });
});
