import { describe, expect, it } from 'vitest';
import { planPrint } from '../../measure/plan';
import { LIGHTNESS } from '../../raster/form';
import { whole, type Region } from '../../raster/region';
import { nothingBeside, testContext, testPaper } from '../../testing';
import { grain, type GrainNumbers } from './grain';
import { grains } from './grains';

const deviation = (values: Float32Array): number => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};
/** How alike values are to those so many columns on, 1 for the same. */
function alike(values: Float32Array, width: number, off: number): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    if (i % width >= width - off) continue;
    sum += values[i]! * values[i + off]!;
    count++;
  }
  return sum / count / deviation(values) ** 2;
}

describe('grains', () => {
  const region: Region = { x: 300, y: 170, width: 400, height: 400 };

  it.each([0.4, 1, 3, 11, 30])('%d pixels wide deviate by one', (size) => {
    const large = size > 10 ? { ...region, width: 1500, height: 1500 } : region;
    expect(deviation(grains(large, size))).toBeGreaterThan(0.9);
    expect(deviation(grains(large, size))).toBeLessThan(1.1);
  });

  it.each([0.4, 2.3, 20])('%d pixels wide are the same whatever region is asked for', (size) => {
    const all = grains(region, size);
    const part = { x: 391, y: 222, width: 37, height: 23 };
    grains(part, size).forEach((value, i) => {
      const [x, y] = [part.x - region.x + (i % 37), part.y - region.y + Math.floor(i / 37)];
      expect(value).toBe(all[y * region.width + x]);
    });
  });

  it.each([2, 6, 24])('%d pixels wide are alike within a grain, and nowhere else', (size) => {
    const width = 1200;
    const values = grains({ x: 0, y: 0, width, height: 500 }, size);
    expect(alike(values, width, Math.max(1, Math.round(size / 4)))).toBeGreaterThan(0.7);
    for (const off of [3 * size, 5 * size, 128, 256, 512]) {
      if (off >= 3 * size) expect(Math.abs(alike(values, width, off))).toBeLessThan(0.12);
    }
  });

  it('of other layers do not follow from each other', () => {
    const [one, other] = [grains(region, 2, 0), grains(region, 2, 1)];
    const product = one.reduce((sum, value, i) => sum + value * other[i]!, 0) / one.length;
    expect(Math.abs(product)).toBeLessThan(0.05);
  });
});

describe('grain', () => {
  const size = { width: 300, height: 200 };
  const run = async (tone: number, change: Partial<GrainNumbers> = {}) => {
    const plane = new Float32Array(size.width * size.height).fill(tone);
    const numbers = {
      ...{ size: 1.5, amount: 4 / 255, coarse: 0, shadows: 0.5, lights: 0.25 },
      ...change,
    };
    const window = { region: whole(size), raster: { ...size, form: LIGHTNESS, planes: [plane] } };
    const grids = { from: size, to: size };
    const result = await grain.apply(window, numbers, whole(size), grids, nothingBeside);
    return result.planes[0]!;
  };

  it('goes by tone, and leaves black and white alone', async () => {
    const levels = async (tone: number) => 255 * deviation(await run(tone));
    expect(await levels(0.5)).toBeCloseTo(4, 0);
    expect(await levels(0.1)).toBeCloseTo(4 * (0.5 + 0.5 * 0.2), 0);
    expect(await levels(0.9)).toBeCloseTo(4 * (0.25 + 0.75 * 0.2), 0);
    for (const tone of [0, 1])
      expect((await run(tone)).every((value) => value === tone)).toBe(true);
  });

  it('is as strong where some of it is coarse, and wider', async () => {
    const plain = await run(0.5);
    const coarse = await run(0.5, { coarse: 0.7 });
    expect(deviation(coarse) / deviation(plain)).toBeCloseTo(1, 0);
    const off = (values: Float32Array) =>
      alike(
        values.map((value) => value - 0.5),
        size.width,
        4,
      );
    expect(off(coarse)).toBeGreaterThan(off(plain) + 0.2);
  });

  it('means the same on paper at any ppi, and weakens where grains run together', () => {
    const paper = testPaper({ width: { value: 120, unit: 'cm' } });
    const rect = { x: 0, y: 0, width: 720, height: 480 };
    const numbers = (ppi: number) => {
      const planned = planPrint({ rect }, paper, ppi);
      if (!planned.ok) throw new Error(planned.reason);
      const context = testContext(size, { plan: planned.plan, phase: 'target' });
      return grain.resolve(grain.defaults, context)!;
    };
    expect(numbers(254).size).toBeCloseTo(4, 9);
    expect(numbers(127).size).toBeCloseTo(2, 9);
    const far = grain.scaled(numbers(127), 0.1);
    expect(far.amount).toBeLessThan(0.5 * numbers(127).amount);
    expect(grain.resolve({ ...grain.defaults, amount: 0 }, testContext(size))).toBeNull();
  });
});
