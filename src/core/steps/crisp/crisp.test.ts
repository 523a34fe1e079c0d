import { describe, expect, it } from 'vitest';
import { blur } from '../../raster/gaussian';
import { LIGHTNESS } from '../../raster/form';
import { whole, type Region } from '../../raster/region';
import { random, testContext } from '../../testing';
import { nothingBeside } from '../../testing';
import { crisp } from './crisp';
import { gainOf } from './gain';

const size = { width: 160, height: 120 };
const all = whole(size);
const numbers = { finer: 1 };

/** Made crisper, all of it or a part. */
async function crisper(luma: Float32Array, region: Region = all): Promise<Float32Array> {
  const grids = { from: size, to: size };
  const { reduction } = crisp as Required<typeof crisp>;
  const window = { region: all, raster: { ...size, form: LIGHTNESS, planes: [luma] } };
  const cells = reduction.neededBy(numbers, region, grids);
  const reduced = { region: cells, raster: reduction.apply(window, numbers, cells, grids) };
  const { planes } = await crisp.apply(window, numbers, region, grids, {
    ...nothingBeside,
    reduced,
  });
  return planes[0]!;
}

/** Root mean square of what is finer than a Gaussian of a pixel, away from the rim. */
function finest(luma: Float32Array): number {
  const soft = blur(luma, all, all, size, 1);
  let sum = 0;
  let count = 0;
  for (let y = 20; y < size.height - 20; y++) {
    for (let x = 20; x < size.width - 20; x++, count++) {
      sum += (luma[y * size.width + x]! - soft[y * size.width + x]!) ** 2;
    }
  }
  return 255 * Math.sqrt(sum / count);
}

/** A texture whose finest octave is too weak: noise, softened. */
function texture(levels: number, softened = 1.3): Float32Array {
  const next = random(7);
  const rough = Float32Array.from({ length: size.width * size.height }, () => next() - 0.5);
  const soft = blur(rough, all, all, size, softened);
  const scale =
    levels / 255 / Math.sqrt(soft.reduce((sum, value) => sum + value * value, 0) / soft.length);
  return soft.map((value) => 0.5 + scale * value);
}

describe('crisper textures', () => {
  it('strengthen what is finest in them, and nothing coarser', async () => {
    const before = texture(8);
    const after = await crisper(before);
    const gain = finest(after) / finest(before);
    expect(gain).toBeGreaterThan(1.4);
    expect(gain).toBeLessThan(3.01);
    const change = after.map((value, i) => value - before[i]!);
    const coarse = blur(change, all, all, size, 4);
    expect(255 * Math.max(...coarse.map(Math.abs))).toBeLessThan(1.5);
  });

  it('leave what is as fine as it should be', async () => {
    const next = random(3);
    const fine = Float32Array.from(
      { length: size.width * size.height },
      () => 0.5 + 0.06 * (next() - 0.5),
    );
    expect(await crisper(fine)).toEqual(fine);
  });

  it('leave plain grounds and lines, and nearly all of an edge', async () => {
    const plain = new Float32Array(size.width * size.height).fill(0.4);
    expect(await crisper(plain)).toEqual(plain);
    // A lone line stays; an edge gains less than a tenth of its height, beside it.
    const drawings: [Float32Array, number][] = [
      [plain.map((value, i) => (i % size.width === 60 ? 0.9 : value)), 0.01],
      [plain.map((value, i) => (i % size.width > 60 ? 0.9 : value)), 0.1],
    ];
    for (const [drawn, share] of drawings) {
      const soft = blur(drawn, all, all, size, 0.8);
      const after = await crisper(soft);
      const change = after.map((value, i) => Math.abs(value - soft[i]!));
      expect(Math.max(...change)).toBeLessThan(share * 0.5);
    }
  });

  it('are the same however they are cut', async () => {
    const before = texture(8);
    const after = await crisper(before);
    const part = { x: 33, y: 21, width: 50, height: 37 };
    const cut = await crisper(before, part);
    for (let y = 0; y < part.height; y++) {
      const from = (part.y + y) * size.width + part.x;
      expect(cut.subarray(y * part.width, (y + 1) * part.width)).toEqual(
        after.subarray(from, from + part.width),
      );
    }
  });

  it('are found by how much larger the print is, and not where nothing was enlarged', () => {
    const at = (factor: number, vector = false) => {
      const context = testContext(size);
      const plan = { ...context.plan, vector, factor: { x: factor, y: factor } };
      return crisp.resolve({}, { ...context, plan });
    };
    expect(at(4)).toEqual({ finer: 1 });
    expect(at(10)).toEqual({ finer: 2.5 });
    expect(at(1.2)).toBeNull();
    expect(at(8, true)).toBeNull();
  });
});

describe('the gain of a place', () => {
  const energies = (fine: number, octave: number, peaked = 3) => ({
    fine: fine * fine,
    octave: octave * octave,
    fourth: peaked * octave ** 4,
  });

  const alike = (...of: [number, number, number?]) => gainOf(energies(...of), energies(...of), 1);

  it('is what the octave below lets expect, within bounds', () => {
    expect(alike(4, 4)).toBeCloseTo(0.87, 2);
    expect(alike(0.1, 4)).toBe(2);
    // Strong textures are given no more than so many levels.
    expect(alike(20, 20) * 20).toBeCloseTo(6.4, 5);
    expect(alike(9, 4)).toBe(0);
  });

  it('is none of a plain ground, of edges, and where nothing is', () => {
    expect(alike(0.2, 0.5)).toBe(0);
    expect(alike(1, 4, 9)).toBe(0);
    const none = { fine: 0, octave: 0, fourth: 0 };
    expect(gainOf(none, none, 1)).toBe(0);
    // Even by itself, at an edge of what lies about it.
    expect(gainOf(energies(1, 4), energies(1, 4, 20), 1)).toBe(0);
    expect(alike(0.2, 1.1)).toBeGreaterThan(0);
  });
});
