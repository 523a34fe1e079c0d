import { describe, expect, it } from 'vitest';
import { luminance } from '../../raster/colour';
import { RGB } from '../../raster/form';
import { emptyRaster, type Raster } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { nothingBeside, testContext, testPicture } from '../../testing';
import { gaussianReference } from '../../testing/references';
import { contrast, type ContrastNumbers } from './contrast';
import { averageRadius } from './guided-base';

async function run(raster: Raster, numbers: ContrastNumbers): Promise<Raster> {
  const size = { width: raster.width, height: raster.height };
  const grids = { from: size, to: size };
  const reduction = contrast.reduction!;
  const window = { region: whole(size), raster };
  if (reduction.factor(numbers) === 0) {
    return contrast.apply(window, numbers, whole(size), grids, nothingBeside);
  }
  const region = whole(reduction.size(numbers, size));
  const reduced = { region, raster: reduction.apply(window, numbers, region, grids) };
  return contrast.apply(window, numbers, whole(size), grids, { ...nothingBeside, reduced });
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
function grounds(size: Size): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const ground = x < size.width / 2 ? 0.3 : 0.75;
      const value = ground + 0.03 * Math.sin(x / 3) * Math.cos(y / 4);
      for (const plane of raster.planes) plane[y * size.width + x] = value;
    }
  return raster;
}

describe('local contrast', () => {
  it.each([2, 7.5, 12, 14, 23.9, 40])(
    'agrees with a guided filter in double precision to half a level, radius %d',
    async (radius) => {
      const size = { width: 150, height: 110 };
      for (const picture of [grounds(size), testPicture(size, 4)]) {
        const numbers = { radius, amount: 1, edges: 25 / 255 };
        const result = await run(picture, numbers);
        const plus = reference(luminance(picture), size, numbers);
        let worst = 0;
        plus.forEach((value, i) => {
          for (let c = 0; c < 3; c++) {
            const added = result.planes[c]![i]! - picture.planes[c]![i]!;
            worst = Math.max(worst, Math.abs(added - value));
          }
        });
        expect(worst * 255).toBeLessThan(0.5);
      }
    },
  );

  it('strengthens what is fine on each ground, and lays no halo along the edge between', async () => {
    const size = { width: 240, height: 60 };
    const picture = grounds(size);
    const result = await run(picture, { radius: 20, amount: 1, edges: 20 / 255 });
    const [before] = picture.planes as [Float32Array];
    const [after] = result.planes as [Float32Array];
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
