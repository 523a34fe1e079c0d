import { describe, expect, it } from 'vitest';
import { luminance } from '../../raster/colour';
import { emptyRaster, type Raster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { nothingBeside, testContext, testPaper, testPicture } from '../../testing';
import { planPrint } from '../../measure/plan';
import { unsharp, type UnsharpNumbers } from './unsharp';
import { RGB } from '../../raster/form';

const size = { width: 40, height: 24 };
const run = (raster: Raster, numbers: UnsharpNumbers) =>
  unsharp.apply(
    { region: whole(size), raster },
    numbers,
    whole(size),
    { from: size, to: size },
    nothingBeside,
  );

/** The textbook: a two-dimensional Gaussian by its formula, renormalised at the borders. */
function reference(luma: Float32Array, x: number, y: number, radius: number): number {
  const reach = Math.ceil(3 * radius);
  let sum = 0;
  let total = 0;
  for (let j = Math.max(0, y - reach); j <= Math.min(size.height - 1, y + reach); j++)
    for (let i = Math.max(0, x - reach); i <= Math.min(size.width - 1, x + reach); i++) {
      const weight = Math.exp(-((i - x) ** 2 + (j - y) ** 2) / (2 * radius * radius));
      sum += weight * luma[j * size.width + i]!;
      total += weight;
    }
  return sum / total;
}

describe('unsharp mask', () => {
  it('adds amount x (luminance - blurred luminance), alike to all three channels', () => {
    const picture = testPicture(size, 3);
    const luma = luminance(picture);
    const result = run(picture, { radius: 1.4, amount: 0.8, threshold: 0, light: 1, dark: 1 });
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < size.width; x++) {
        const i = y * size.width + x;
        const added = 0.8 * (luma[i]! - reference(luma, x, y, 1.4));
        for (let c = 0; c < 3; c++) {
          expect(Math.abs(result.planes[c]![i]! - picture.planes[c]![i]! - added)).toBeLessThan(
            2e-6,
          );
        }
      }
  });

  it('leaves differences below the threshold, and flat areas, as they are', () => {
    const faint = emptyRaster(size.width, size.height, RGB);
    faint.planes.forEach((plane) =>
      plane.forEach((_, i) => (plane[i] = 0.5 + (i % 2 ? 0.5 : -0.5) / 255)),
    );
    const result = run(faint, { radius: 2, amount: 5, threshold: 1.2 / 255, light: 1, dark: 1 });
    expect(result.planes[0]).toEqual(faint.planes[0]);
  });

  it('means the same on paper at any ppi', () => {
    const paper = testPaper({ width: { value: 120, unit: 'cm' } });
    const rect = { x: 0, y: 0, width: 720, height: 480 };
    const radius = (ppi: number) => {
      const planned = planPrint({ rect }, paper, ppi);
      if (!planned.ok) throw new Error(planned.reason);
      return unsharp.resolve(
        unsharp.defaults,
        testContext(size, { plan: planned.plan, phase: 'target' }),
      )!.radius;
    };
    expect(radius(254)).toBeCloseTo(3, 9);
    expect(radius(127)).toBeCloseTo(1.5, 9);
  });

  it('is nothing at amount 0', () => {
    const planned = planPrint({ rect: whole(size) }, testPaper(), 100);
    if (!planned.ok) throw new Error(planned.reason);
    const settings = { ...unsharp.defaults, amount: 0 };
    expect(unsharp.resolve(settings, testContext(size, { plan: planned.plan }))).toBeNull();
    expect(unsharp.summary(settings)).toBe('no sharpening');
  });
});
