import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { whole, type Region } from '../../raster/region';
import { random } from '../../testing';
import {
  chromaRegion,
  chromaSize,
  pixelsUnder,
  readBilinear,
  toSamplesOf,
  type Sampling,
} from './chroma';
import type { Plane } from '../transform/shifted';
import { deblock } from './deblock';

const size = { width: 29, height: 21 };
const table = tableAtQuality(STANDARD_LUMA, 30);

function plane(seed: number): Plane {
  const next = random(seed);
  const values = Float32Array.from({ length: size.width * size.height }, (_, i) => {
    const x = i % size.width;
    const y = Math.floor(i / size.width);
    return 40 * Math.sin(x / 6) + 25 * Math.cos(y / 4) + (x > y ? 30 : -20) + 8 * next();
  });
  return { values, covered: whole(size), size };
}

/** The orthonormal 8x8 transform by its formula, in double precision. */
const basis = (k: number, n: number) =>
  (k === 0 ? Math.sqrt(1 / 8) : Math.sqrt(2 / 8)) * Math.cos((Math.PI * (2 * n + 1) * k) / 16);
function transform(block: number[], inverse: boolean): number[] {
  const out = new Array<number>(64).fill(0);
  for (let a = 0; a < 8; a++)
    for (let b = 0; b < 8; b++)
      for (let c = 0; c < 8; c++)
        for (let d = 0; d < 8; d++) {
          const weight = inverse ? basis(c, a) * basis(d, b) : basis(a, c) * basis(b, d);
          out[a * 8 + b]! += weight * block[c * 8 + d]!;
        }
  return out;
}

/** The method in its plainest form: one pixel's estimate before the projection. */
function averageAt({ values }: Plane, px: number, py: number, gridX: number, gridY: number) {
  let sum = 0;
  let total = 0;
  const clamp = (v: number, most: number) => Math.min(Math.max(v, 0), most);
  for (let top = py - 7; top <= py; top++)
    for (let left = px - 7; left <= px; left++) {
      const block: number[] = [];
      for (let j = 0; j < 8; j++)
        for (let i = 0; i < 8; i++) {
          const x = clamp(left + i, size.width - 1);
          const y = clamp(top + j, size.height - 1);
          block.push(values[y * size.width + x]!);
        }
      const coefficients = transform(block, false).map((c, k) =>
        Math.abs(c) > table[k]! / 2 ? c : 0,
      );
      const kept = coefficients.filter((c) => c !== 0).length;
      const own = (left - gridX) % 8 === 0 && (top - gridY) % 8 === 0;
      const weight = (own ? 4 : 1) / (1 + kept);
      sum += weight * transform(coefficients, true)[(py - top) * 8 + (px - left)]!;
      total += weight;
    }
  return sum / total;
}

describe('deblocking', () => {
  it.each([
    [0, 0],
    [-2, -4],
  ])('is the textbook method where nothing is projected (grid at %d, %d)', (gridX, gridY) => {
    const input = plane(3);
    // Blocks that the picture's right and lower borders cut are averaged but not projected.
    const lastX = gridX + 8 * Math.floor((size.width - gridX) / 8);
    const lastY = gridY + 8 * Math.floor((size.height - gridY) / 8);
    const result = deblock(input, whole(size), table, gridX, gridY);
    for (const [x, y] of [
      [lastX, 4],
      [size.width - 1, 11],
      [5, lastY],
      [size.width - 1, size.height - 1],
    ] as const) {
      expect(result[y * size.width + x]).toBeCloseTo(averageAt(input, x, y, gridX, gridY), 3);
    }
  });

  it('keeps every coefficient of the file’s own blocks within its reach', () => {
    const input = plane(9);
    const result = deblock(input, whole(size), table, 0, 0);
    const block = (values: Float32Array) =>
      Array.from({ length: 64 }, (_, i) => values[(8 + (i >> 3)) * size.width + 8 + (i % 8)]!);
    const said = transform(block(input.values), false);
    const now = transform(block(result), false);
    now.forEach((value, k) => {
      const step = table[k]!;
      const stands = Math.round(said[k]! / step) * step;
      expect(Math.abs(value - stands)).toBeLessThanOrEqual(0.35 * step + 1e-3);
    });
  });

  it('leaves nothing of faint noise and all of a flat plane', () => {
    const next = random(1);
    const noisy = { ...plane(1), values: plane(1).values.map(() => 20 + next()) };
    const result = deblock(noisy, whole(size), table, 0, 0);
    const mean = result.reduce((sum, v) => sum + v, 0) / result.length;
    for (const value of result) expect(Math.abs(value - mean)).toBeLessThan(0.6);
  });
});

describe('colour samples', () => {
  const sampling = fc.record({
    x: fc.constantFrom(1, 2, 4),
    y: fc.constantFrom(1, 2),
    gridX: fc.integer({ min: -15, max: 0 }),
    gridY: fc.integer({ min: -15, max: 0 }),
  });
  const region: fc.Arbitrary<Region> = fc
    .record({
      x: fc.integer({ min: 0, max: size.width - 1 }),
      y: fc.integer({ min: 0, max: size.height - 1 }),
      width: fc.integer({ min: 1, max: 20 }),
      height: fc.integer({ min: 1, max: 20 }),
    })
    .map((r) => ({
      ...r,
      width: Math.min(r.width, size.width - r.x),
      height: Math.min(r.height, size.height - r.y),
    }));

  it('are read back as the ramp that they were taken from', () => {
    fc.assert(
      fc.property(sampling, region, (of: Sampling, part) => {
        const ramp = Float32Array.from(
          { length: size.width * size.height },
          (_, i) => 3 * (i % size.width),
        );
        const needed = chromaRegion(part, size, of);
        const samples = toSamplesOf(ramp, whole(size), needed, size, of);
        const back = readBilinear(samples.values, needed, part, size, of);
        for (let y = 0; y < part.height; y++)
          for (let x = 0; x < part.width; x++) {
            const px = part.x + x;
            // Cut samples at the borders stand for fewer pixels, which shifts them.
            if (px < 2 * of.x || px >= size.width - 2 * of.x) continue;
            expect(back[y * part.width + x]).toBeCloseTo(3 * px, 3);
          }
      }),
    );
  });

  it('lie on the picture, and so do the pixels under them', () => {
    fc.assert(
      fc.property(sampling, region, (of: Sampling, part) => {
        const grid = chromaSize(size, of);
        const needed = chromaRegion(part, size, of);
        expect(needed.x).toBeGreaterThanOrEqual(0);
        expect(needed.x + needed.width).toBeLessThanOrEqual(grid.width);
        expect(needed.y + needed.height).toBeLessThanOrEqual(grid.height);
        const under = pixelsUnder(needed, size, of);
        expect(under.x).toBeLessThanOrEqual(part.x);
        expect(under.x + under.width).toBeGreaterThanOrEqual(part.x + part.width);
        expect(under.y + under.height).toBeLessThanOrEqual(size.height);
      }),
    );
  });
});
