import { describe, expect, it } from 'vitest';
import { emptyRaster, type Window } from '../../raster/raster';
import { whole } from '../../raster/region';
import { luminanceWindow, nothingBeside, testContext, testPaper, testPicture } from '../../testing';
import { planPrint } from '../../measure/plan';
import { unsharp, type UnsharpNumbers } from './unsharp';
import { LIGHTNESS } from '../../raster/form';

const size = { width: 40, height: 24 };
const run = (input: Window, numbers: UnsharpNumbers): Float32Array =>
  unsharp.apply(input, numbers, whole(size), { from: size, to: size }, nothingBeside).planes[0]!;

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
  it('adds amount x (luminance - blurred luminance)', () => {
    const input = luminanceWindow(testPicture(size, 3));
    const [luma] = input.raster.planes as [Float32Array];
    const result = run(input, { radius: 1.4, amount: 0.8, threshold: 0, light: 1, dark: 1 });
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < size.width; x++) {
        const i = y * size.width + x;
        const added = 0.8 * (luma[i]! - reference(luma, x, y, 1.4));
        expect(Math.abs(result[i]! - luma[i]! - added)).toBeLessThan(2e-6);
      }
  });

  it('leaves differences below the threshold, and flat areas, as they are', () => {
    const faint = emptyRaster(size.width, size.height, LIGHTNESS);
    faint.planes[0]!.forEach((_, i, plane) => (plane[i] = 0.5 + (i % 2 ? 0.5 : -0.5) / 255));
    const result = run(
      { region: whole(size), raster: faint },
      { radius: 2, amount: 5, threshold: 1.2 / 255, light: 1, dark: 1 },
    );
    expect(result).toEqual(faint.planes[0]);
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
