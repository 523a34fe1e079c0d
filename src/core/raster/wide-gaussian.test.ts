import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussianReference } from '../testing/references';
import { random } from '../testing';
import { LIGHTNESS } from './form';
import { cut, emptyRaster, type Raster, type Window } from './raster';
import { contains, type Region, type Size, whole } from './region';
import {
  cellsOfPixels,
  pixelsOfCells,
  reducedSize,
  reduceRows,
  wideBlurRows,
  wideGaussian,
  type WideGaussian,
} from './wide-gaussian';

/** Lightness with hard edges of full contrast and noise: more than any picture asks of a blur. */
function edges({ width, height }: Size, seed: number): Raster {
  const next = random(seed);
  const raster = emptyRaster(width, height, LIGHTNESS);
  const [plane] = raster.planes as [Float32Array];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const edge = (x >> 5) % 2 === (y >> 4) % 2 ? 0.8 : 0;
      plane[y * width + x] = edge + 0.2 * next();
    }
  return raster;
}

/** The reduced grid over a region of it, from no more than the pixels that it says it depends on. */
function reduced(picture: Raster, region: Region, factor: number): Raster {
  const size = { width: picture.width, height: picture.height };
  const covered = pixelsOfCells(region, factor, size);
  const pixels = cut({ region: whole(picture), raster: picture }, covered);
  return reduceRows(covered, region, factor, size, 0, (memory, at, y) => {
    const start = (y - covered.y) * covered.width;
    memory.floats.set(pixels.planes[0]!.subarray(start, start + covered.width), at / 4);
  });
}

/** The blur over a region, from no more of the reduced grid than it says it depends on. */
function blurred(picture: Raster, region: Region, wide: WideGaussian): Float32Array {
  const size = { width: picture.width, height: picture.height };
  const cells = cellsOfPixels(region, wide, size);
  const window: Window = { region: cells, raster: reduced(picture, cells, wide.factor) };
  const result = new Float32Array(region.width * region.height);
  wideBlurRows(window, region, size, wide, 0, ({ floats }, soft, _, y) => {
    result.set(floats.subarray(soft / 4, soft / 4 + region.width), y * region.width);
  });
  return result;
}

const furthest = (one: ArrayLike<number>, other: ArrayLike<number>): number =>
  Array.from(one).reduce((most, value, i) => Math.max(most, Math.abs(value - other[i]!)), 0);

describe('a wide Gaussian', () => {
  it.each([6, 9.5, 14, 23, 40])(
    'of %d pixels is the textbook’s to less than a fifth of a level, borders included',
    (radius) => {
      const size = { width: 190, height: 147 };
      const picture = edges(size, radius);
      const wide = wideGaussian(radius)!;
      const expected = gaussianReference(picture.planes[0]!, size, radius, 5);
      const found = blurred(picture, whole(picture), wide);
      expect(furthest(found, expected)).toBeLessThan(1 / 255);
      const off = found.reduce((sum, value, i) => sum + (value - expected[i]!) ** 2, 0);
      expect(Math.sqrt(off / found.length)).toBeLessThan(0.2 / 255);
    },
  );

  it('leaves an even picture as it is, however small that is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 70 }),
        fc.integer({ min: 1, max: 70 }),
        fc.double({ min: 6, max: 60, noNaN: true }),
        (width, height, radius) => {
          const picture = emptyRaster(width, height, LIGHTNESS);
          picture.planes[0]!.fill(0.4);
          const found = blurred(picture, whole(picture), wideGaussian(radius)!);
          expect(furthest(found, picture.planes[0]!)).toBeLessThan(1e-5);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('is the same in parts as in one, from what each part says it depends on', () => {
    const size = { width: 131, height: 118 };
    const picture = edges(size, 3);
    const wide = wideGaussian(11)!;
    const all = emptyRaster(size.width, size.height, LIGHTNESS);
    all.planes[0]!.set(blurred(picture, whole(picture), wide));
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: size.width - 1 }),
        fc.integer({ min: 0, max: size.height - 1 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 60 }),
        (x, y, width, height) => {
          const region = {
            ...{ x, y },
            width: Math.min(width, size.width - x),
            height: Math.min(height, size.height - y),
          };
          const part = cut({ region: whole(all), raster: all }, region);
          expect(furthest(blurred(picture, region, wide), part.planes[0]!)).toBeLessThan(2e-6);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is left to the plain one where it is narrow, and costs no more the wider it is', () => {
    expect(wideGaussian(5.9)).toBeNull();
    for (let radius = 6; radius < 400; radius *= 1.3) {
      const { factor, sigma, reach } = wideGaussian(radius)!;
      expect(Math.log2(factor) % 1).toBe(0);
      expect(factor).toBeGreaterThanOrEqual(4);
      // Of what is blurred on the reduced grid, so many cells about each.
      expect(reach).toBeLessThan(12);
      expect(Math.hypot(sigma, Math.sqrt(2 / 3)) * factor).toBeCloseTo(radius, 6);
    }
  });

  it('asks for nothing that lies beyond the picture or its reduced grid', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 0, max: 299 }),
        fc.integer({ min: 1, max: 300 }),
        fc.double({ min: 6, max: 90, noNaN: true }),
        (side, start, length, radius) => {
          const size = { width: side, height: side };
          const x = Math.min(start, side - 1);
          const region = { x, y: x, width: Math.min(length, side - x), height: 1 };
          const wide = wideGaussian(radius)!;
          const cells = cellsOfPixels(region, wide, size);
          const grid = reducedSize(size, wide.factor);
          expect(contains({ x: 0, y: 0, ...grid }, cells)).toBe(true);
          expect(contains({ x: 0, y: 0, ...size }, pixelsOfCells(cells, wide.factor, size))).toBe(
            true,
          );
        },
      ),
    );
  });
});
