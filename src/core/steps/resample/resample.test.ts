import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyRaster } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { rotation } from '../../frame/framing';
import { turnRaster } from '../../raster/turn';
import { testPicture } from '../../testing';
import { resample } from './resample';
import type { ResampleNumbers } from './resample';

import { buildFilter } from './filter';
import { SEPARABLE } from './kernels';
import { jincKernel, JINC_RADIUS } from './jinc';
import { RGB, RGBA } from '../../raster/form';

/** A resampling, with what tests leave as it usually is. */
type Upright = Pick<ResampleNumbers, 'method' | 'source' | 'width' | 'height'>;
const numbersOf = (named: Upright & Partial<ResampleNumbers>): ResampleNumbers => ({
  ...{ turn: 0, straighten: 0, light: 'gamma', limit: 0, step: 10 },
  ...named,
});

const sinc = (t: number) => (t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t));

/** Textbook kernels, written down apart from the ones under test. */
const textbook: Record<(typeof SEPARABLE)[number], { radius: number; at(x: number): number }> = {
  bilinear: { radius: 1, at: (x) => Math.max(0, 1 - Math.abs(x)) },
  bicubic: {
    radius: 2,
    at(signed) {
      const x = Math.abs(signed);
      const a = -0.5;
      if (x <= 1) return (a + 2) * x ** 3 - (a + 3) * x ** 2 + 1;
      return x < 2 ? a * x ** 3 - 5 * a * x ** 2 + 8 * a * x - 4 * a : 0;
    },
  },
  mitchell: {
    radius: 2,
    at(signed) {
      const x = Math.abs(signed);
      if (x < 1) return (7 * x ** 3 - 12 * x ** 2 + 16 / 3) / 6;
      return x < 2 ? ((-7 / 3) * x ** 3 + 12 * x ** 2 - 20 * x + 32 / 3) / 6 : 0;
    },
  },
  lanczos2: { radius: 2, at: (x) => (Math.abs(x) < 2 ? sinc(x) * sinc(x / 2) : 0) },
  lanczos3: { radius: 3, at: (x) => (Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0) },
};

const inside = (at: number, size: number) => Math.min(size, Math.max(0, at));

/** One result pixel by the two-dimensional formula, in double precision. */
function reference(plane: Float32Array, size: Size, numbers: Upright, px: number, py: number) {
  const { source, width, height, method } = numbers;
  const stepX = source.width / width;
  const stepY = source.height / height;
  const cx = source.x + (px + 0.5) * stepX - 0.5;
  const cy = source.y + (py + 0.5) * stepY - 0.5;
  const wx = Math.max(1, stepX);
  const wy = Math.max(1, stepY);
  const weigh = (x: number, y: number): number => {
    if (method === 'nearest') {
      // The share of the result's pixel that a pixel of the source covers.
      const share = (at: number, begin: number, end: number, of: number) =>
        Math.max(0, Math.min(at + 1, inside(end, of)) - Math.max(at, inside(begin, of)));
      const left = source.x + px * stepX;
      const top = source.y + py * stepY;
      return share(x, left, left + stepX, size.width) * share(y, top, top + stepY, size.height);
    }
    if (method === 'lanczos3-jinc') return jincKernel(Math.hypot((x - cx) / wx, (y - cy) / wy));
    const kernel = textbook[method as (typeof SEPARABLE)[number]];
    return kernel.at((x - cx) / wx) * kernel.at((y - cy) / wy);
  };
  let sum = 0;
  let total = 0;
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const weight = weigh(x, y);
      sum += weight * plane[y * size.width + x]!;
      total += weight;
    }
  return sum / total;
}

const size = { width: 41, height: 29 };
const picture = testPicture(size, 7);
const run = (upright: Upright & Partial<ResampleNumbers>, raster = picture) => {
  const numbers = numbersOf(upright);
  const to = { width: numbers.width, height: numbers.height };
  return resample.apply({ region: whole(size), raster }, numbers, whole(to), {
    from: size,
    to,
  });
};

const plainly = ['nearest', ...SEPARABLE, 'lanczos3-jinc'] as const;

describe.each(plainly)('%s', (method) => {
  it.each([
    ['enlarged 3.7 times', { x: 0, y: 0, width: 41, height: 29 }, 152, 107],
    ['enlarged 10.5 times', { x: 0, y: 0, width: 41, height: 29 }, 430, 305],
    ['reduced', { x: 0, y: 0, width: 41, height: 29 }, 17, 11],
    ['stretched, from a real-valued part', { x: 2.6, y: 1.3, width: 33.3, height: 22.2 }, 90, 30],
    ['the same size', { x: 0, y: 0, width: 41, height: 29 }, 41, 29],
  ])('%s, stays within 1/1000 of a level of the textbook', (_, source, width, height) => {
    const numbers = { method, source, width, height };
    const result = run(numbers);
    let worst = 0;
    for (let y = 0; y < height; y++)
      // Every fifth, in another place on each row.
      for (let x = (2 * y) % 5; x < width; x += 5) {
        const expected = reference(picture.planes[1]!, size, numbers, x, y);
        worst = Math.max(worst, Math.abs(result.planes[1]![y * width + x]! - expected));
      }
    expect(worst).toBeLessThan(LEVEL / 1000);
  });

  it('keeps a flat picture flat to the last level', () => {
    const flat = emptyRaster(size.width, size.height, RGB);
    flat.planes.forEach((plane) => plane.fill(0.62));
    const to = { width: 97, height: 71 };
    const source = { x: 0, y: 0, ...size };
    const result = run({ method, source, ...to }, flat);
    for (const value of result.planes[2]!) expect(Math.abs(value - 0.62)).toBeLessThan(1e-6);
  });
});

describe.each(['nearest', ...SEPARABLE] as const)('the filter of %s', (method) => {
  it('has weights that sum to one wherever the target pixel lies', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 200 }),
        fc.double({ min: 0, max: 0.4, noNaN: true }),
        (sourceSize, targetSize, cropped) => {
          const axis = {
            method,
            sourceSize,
            origin: cropped * sourceSize,
            span: sourceSize * (1 - cropped),
            targetSize,
          };
          const { taps, weights, first } = buildFilter(axis, 0, targetSize);
          for (let i = 0; i < targetSize; i++) {
            const sum = weights.subarray(i * taps, (i + 1) * taps).reduce((a, b) => a + b, 0);
            expect(Math.abs(sum - 1)).toBeLessThan(1e-12);
            expect(first[i]).toBeGreaterThanOrEqual(0);
            expect(first[i]! + taps).toBeLessThanOrEqual(sourceSize);
          }
        },
      ),
    );
  });
});

it('leaves the picture as it is at factor one, by every interpolating method', () => {
  for (const method of [
    'nearest',
    'bilinear',
    'bicubic',
    'lanczos2',
    'lanczos3',
    'stepped',
  ] as const) {
    const result = run({ method, source: { x: 0, y: 0, ...size }, ...size });
    result.planes[0]!.forEach((value, i) =>
      expect(Math.abs(value - picture.planes[0]![i]!)).toBeLessThan(1e-6),
    );
  }
});

describe('turning', () => {
  it.each([90, 180, 270] as const)('by %d degrees moves pixels and mixes none', (turn) => {
    const to = turn === 180 ? size : { width: size.height, height: size.width };
    const result = run({ method: 'lanczos3', source: { x: 0, y: 0, ...to }, ...to, turn });
    const expected = turnRaster(picture, turn);
    result.planes[1]!.forEach((value, i) => expect(value).toBeCloseTo(expected.planes[1]![i]!, 6));
  });

  it('to the right brings the left column to the top row', () => {
    const turned = turnRaster(picture, 90);
    expect(turned).toMatchObject({ width: size.height, height: size.width });
    for (let x = 0; x < size.height; x++) {
      expect(turned.planes[0]![x]).toBe(picture.planes[0]![(size.height - 1 - x) * size.width]);
    }
  });
});

describe('straightening', () => {
  /** A smooth picture whose value is known between its pixels too. */
  const at = (x: number, y: number) => 0.5 + 0.2 * Math.sin(x / 4) + 0.2 * Math.cos(y / 5);
  const smooth = emptyRaster(size.width, size.height, RGB);
  smooth.planes.forEach((plane) =>
    plane.forEach((_, i) => (plane[i] = at(i % size.width, Math.floor(i / size.width)))),
  );
  const source = { x: 10, y: 8, width: 20, height: 12 };

  it.each(['bicubic', 'lanczos3'] as const)(
    'by %s takes what lies under the slanted grid',
    (method) => {
      const to = { width: 60, height: 36 };
      const degrees = 7;
      const result = run({ method, source, ...to, straighten: degrees }, smooth);
      const { cos, sin } = rotation(degrees);
      let worst = 0;
      for (let v = 0; v < to.height; v++)
        for (let u = 0; u < to.width; u++) {
          const x = source.x + (u + 0.5) / 3 - size.width / 2;
          const y = source.y + (v + 0.5) / 3 - size.height / 2;
          const expected = at(
            size.width / 2 + x * cos + y * sin - 0.5,
            size.height / 2 - x * sin + y * cos - 0.5,
          );
          worst = Math.max(worst, Math.abs(result.planes[2]![v * to.width + u]! - expected));
        }
      expect(worst).toBeLessThan(2 * LEVEL);
    },
  );

  it('by next to nothing gives what the upright resampling gives', () => {
    const to = { width: 60, height: 36 };
    const upright = run({ method: 'lanczos3', source, ...to });
    const slanted = run({ method: 'lanczos3', source, ...to, straighten: 1e-9 });
    upright.planes[0]!.forEach((value, i) =>
      expect(Math.abs(value - slanted.planes[0]![i]!)).toBeLessThan(LEVEL / 50),
    );
  });
});

it('does not mix in the colour of what is transparent', () => {
  const seen = emptyRaster(size.width, size.height, RGBA);
  seen.planes[3]!.forEach((_, i) => {
    const opaque = i % size.width > 20;
    seen.planes[0]![i] = opaque ? 0.8 : 0;
    seen.planes[3]![i] = opaque ? 1 : 0;
  });
  const to = { width: 200, height: 140 };
  const result = run({ method: 'bilinear', source: { x: 0, y: 0, ...size }, ...to }, seen);
  result.planes[0]!.forEach((value, i) => {
    if (result.planes[3]![i]! > 0.01) expect(value).toBeCloseTo(0.8, 4);
  });
});

describe('nearest neighbour', () => {
  it('repeats pixels at whole-number factors, and makes up the rest by area', () => {
    const three = run({
      ...{ method: 'nearest', source: { x: 0, y: 0, ...size } },
      ...{ width: 3 * size.width, height: 3 * size.height },
    });
    three.planes[0]!.forEach((value, i) => {
      const x = Math.floor((i % three.width) / 3);
      const y = Math.floor(i / three.width / 3);
      expect(value).toBe(picture.planes[0]![y * size.width + x]);
    });
    // At two and a half, every fifth pixel is half of one and half of the next.
    const source = { x: 0, y: 0, width: 40, height: 28 };
    const mixed = run({ method: 'nearest', source, width: 100, height: 70 });
    const [first, second] = picture.planes[0]!;
    expect(mixed.planes[0]![1]).toBe(first);
    expect(mixed.planes[0]![2]).toBeCloseTo((first! + second!) / 2, 6);
    expect(mixed.planes[0]![3]).toBe(second);
  });
});

/** Dark to the left of the middle, light to the right of it. */
const edge = emptyRaster(size.width, size.height, RGB);
edge.planes.forEach((plane) =>
  plane.forEach((_, i) => (plane[i] = i % size.width < 20 ? 0.2 : 0.8)),
);
const larger = { source: { x: 0, y: 0, ...size }, width: 205, height: 145 };
const span = (raster: { planes: Float32Array[] }) => ({
  least: Math.min(...raster.planes[0]!),
  most: Math.max(...raster.planes[0]!),
});

describe('the limit to ringing', () => {
  it.each(['bicubic', 'lanczos3', 'lanczos3-jinc'] as const)(
    'keeps what %s makes of an edge between its sides',
    (method) => {
      const ringing = span(run({ ...larger, method }, edge));
      expect(ringing.least).toBeLessThan(0.19);
      expect(ringing.most).toBeGreaterThan(0.81);
      const limited = span(run({ ...larger, method, limit: 1 }, edge));
      expect(limited.least).toBeCloseTo(0.2, 5);
      expect(limited.most).toBeCloseTo(0.8, 5);
      const half = span(run({ ...larger, method, limit: 0.5 }, edge));
      expect(half.most - 0.8).toBeCloseTo((ringing.most - 0.8) / 2, 3);
    },
  );

  it('leaves a reduction as it is', () => {
    const smaller = { method: 'lanczos3', source: larger.source, width: 20, height: 14 } as const;
    expect(run({ ...smaller, limit: 1 })).toEqual(run(smaller));
  });
});

describe('linear light', () => {
  it('mixes black and white to what half the light looks like', () => {
    const stripes = emptyRaster(size.width, size.height, RGB);
    stripes.planes.forEach((plane) => plane.forEach((_, i) => (plane[i] = i % 2)));
    const half = { method: 'nearest', source: { x: 0, y: 0, width: 40, height: 28 } } as const;
    const mixed = run({ ...half, width: 20, height: 14, light: 'linear' }, stripes);
    // The curve of sRGB puts half the light at 188 of 255.
    mixed.planes[0]!.forEach((value) => expect(value * 255).toBeCloseTo(187.5, 0));
    const encoded = run({ ...half, width: 20, height: 14 }, stripes);
    encoded.planes[0]!.forEach((value) => expect(value).toBeCloseTo(0.5, 6));
  });

  it('keeps a flat picture flat, and alpha out of it', () => {
    const flat = emptyRaster(size.width, size.height, RGBA);
    flat.planes.forEach((plane) => plane.fill(0.37));
    const result = run({ ...larger, method: 'lanczos3', light: 'linear' }, flat);
    result.planes.forEach((plane) => plane.forEach((value) => expect(value).toBeCloseTo(0.37, 4)));
  });
});

describe('stepped bicubic', () => {
  const direct = run({ ...larger, method: 'bicubic' });

  it('is the same as one step where one is enough', () => {
    const tall = { ...larger, width: 66, height: 46 };
    const once = run({ ...tall, method: 'stepped', step: 100 });
    expect(once).toEqual(run({ ...tall, method: 'bicubic' }));
  });

  it('differs from one step the more the smaller its steps are', () => {
    const differs = (step: number) => {
      const { planes } = run({ ...larger, method: 'stepped', step });
      const off = planes[0]!.map((value, i) => (value - direct.planes[0]![i]!) ** 2);
      return Math.sqrt(off.reduce((sum, value) => sum + value, 0) / off.length) * 255;
    };
    expect(differs(5)).toBeGreaterThan(differs(50));
    expect(differs(5)).toBeGreaterThan(0.2);
    expect(differs(5)).toBeLessThan(8);
  });
});

describe('the round kernel', () => {
  /** J1 by its integral, apart from the series under test. */
  const besselOne = (x: number) => {
    const STEPS = 2000;
    let sum = 0;
    for (let i = 0; i < STEPS; i++) {
      const angle = (Math.PI * (i + 0.5)) / STEPS;
      sum += Math.cos(angle - x * Math.sin(angle));
    }
    return sum / STEPS;
  };

  it('is what falls off alike in all directions', () => {
    expect(jincKernel(0)).toBe(1);
    expect(jincKernel(JINC_RADIUS)).toBe(0);
    expect(Math.abs(besselOne(Math.PI * JINC_RADIUS))).toBeLessThan(1e-9);
    const jinc = (r: number) => (2 * besselOne(Math.PI * r)) / (Math.PI * r);
    for (const r of [0.3, 0.9, 1.5, 2.2, 3.1]) {
      const expected = jinc(r) * jinc((r * 1.2196698912665045) / JINC_RADIUS);
      expect(jincKernel(r)).toBeCloseTo(expected, 9);
    }
  });
});
