import { describe, expect, it } from 'vitest';
import { LIGHTNESS } from '../../raster/form';
import { emptyRaster, type Window } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { luminanceWindow, nothingBeside, testContext, testPicture } from '../../testing';
import { gaussianReference } from '../../testing/references';
import { contrast, type ContrastNumbers } from './contrast';
import { averageRadius } from './guided-base';

async function run(window: Window, numbers: ContrastNumbers): Promise<Float32Array> {
  const { width, height } = window.raster;
  const size = { width, height };
  const grids = { from: size, to: size };
  const reduction = contrast.reduction!;
  if (reduction.factor(numbers) === 0) {
    const result = await contrast.apply(window, numbers, whole(size), grids, nothingBeside);
    return result.planes[0]!;
  }
  const region = whole(reduction.size(numbers, size));
  const reduced = { region, raster: reduction.apply(window, numbers, region, grids) };
  const beside = { ...nothingBeside, reduced };
  return (await contrast.apply(window, numbers, whole(size), grids, beside)).planes[0]!;
}

/** The guided filter by its formula, with Gaussian windows, at every pixel in double precision. */
function reference(luma: Float32Array, size: Size, { radius, amount, edges }: ContrastNumbers) {
  const mean = gaussianReference(luma, size, radius, 5);
  const square = gaussianReference(
    luma.map((value) => value * value),
    size,
    radius,
    5,
  );
  const slope = mean.map((m, i) => {
    const variance = Math.max(0, square[i]! - m * m);
    return variance ** 2 / (variance ** 2 + edges ** 4);
  });
  const level = mean.map((m, i) => (1 - slope[i]!) * m);
  const slopes = gaussianReference(slope, size, averageRadius(radius), 5);
  const levels = gaussianReference(level, size, averageRadius(radius), 5);
  return Float64Array.from(luma, (own, i) => {
    const tone = Math.min(1, Math.max(0, own));
    return 4 * amount * tone * (1 - tone) * (own - (slopes[i]! * own + levels[i]!));
  });
}

/** Two grounds with a hard edge between, and fine waves on both. */
function grounds(size: Size): Window {
  const raster = emptyRaster(size.width, size.height, LIGHTNESS);
  const [plane] = raster.planes as [Float32Array];
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const ground = x < size.width / 2 ? 0.3 : 0.75;
      const value = ground + 0.03 * Math.sin(x / 3) * Math.cos(y / 4);
      plane[y * size.width + x] = value;
    }
  return { region: whole(size), raster };
}

describe('local contrast', () => {
  it.each([2, 7.5, 12, 14, 23.9, 40])(
    'agrees with a guided filter in double precision to half a level, radius %d',
    async (radius) => {
      const size = { width: 150, height: 110 };
      for (const picture of [grounds(size), luminanceWindow(testPicture(size, 4))]) {
        const numbers = { radius, amount: 1, edges: 25 / 255 };
        const result = await run(picture, numbers);
        const [luma] = picture.raster.planes as [Float32Array];
        const plus = reference(luma, size, numbers);
        let worst = 0;
        plus.forEach((value, i) => {
          worst = Math.max(worst, Math.abs(result[i]! - luma[i]! - value));
        });
        expect(worst * 255).toBeLessThan(0.5);
      }
    },
  );

  it('strengthens what is fine on each ground, and lays no halo along the edge between', async () => {
    const size = { width: 240, height: 60 };
    const picture = grounds(size);
    const after = await run(picture, { radius: 20, amount: 1, edges: 20 / 255 });
    const [before] = picture.raster.planes as [Float32Array];
    const spread = (plane: Float32Array, x: number) => {
      const column = Array.from({ length: 25 }, (_, y) => plane[(y + 15) * size.width + x]!);
      return Math.max(...column) - Math.min(...column);
    };
    expect(spread(after, 30) / spread(before, 30)).toBeGreaterThan(1.3);
    const mean = (plane: Float32Array, from: number) => {
      let sum = 0;
      for (let y = 0; y < size.height; y++)
        for (let x = from; x < from + 19; x++) sum += plane[y * size.width + x]!;
      return sum / (19 * size.height);
    };
    // Beside the edge the ground moves by no more than 2 % of the edge.
    for (const from of [100, 121]) {
      expect(Math.abs(mean(after, from) - mean(before, from))).toBeLessThan(0.02 * 0.45);
    }
  });

  it('is nothing at amount 0, and keeps to radii that it can compute', () => {
    const context = testContext({ width: 100, height: 80 });
    expect(contrast.resolve({ ...contrast.defaults, amount: 0 }, context)).toBeNull();
    expect(
      contrast.resolve({ ...contrast.defaults, radius: 0.5, unit: 'px' }, context)!.radius,
    ).toBe(1);
  });
});
