import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyRaster } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { rotation } from '../../frame/framing';
import { turnRaster } from '../../raster/turn';
import { testPicture } from '../../testing';
import { enlarge, type EnlargeNumbers } from './enlarge';

type Upright = Omit<EnlargeNumbers, 'turn' | 'straighten'>;
import { buildFilter } from './filter';
import { Method } from './kernels';

/** Textbook kernels, written down apart from the ones under test. */
const textbook: Record<Exclude<Method, 'nearest'>, { radius: number; at(x: number): number }> = {
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
  lanczos3: {
    radius: 3,
    at(x) {
      const sinc = (t: number) => (t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t));
      return Math.abs(x) < 3 ? sinc(x) * sinc(x / 3) : 0;
    },
  },
};

/** One result pixel by the two-dimensional formula, in double precision. */
function reference(
  plane: Float32Array,
  size: Size,
  numbers: Upright,
  px: number,
  py: number,
): number {
  const { source, width, height, method } = numbers;
  const cx = source.x + ((px + 0.5) * source.width) / width - 0.5;
  const cy = source.y + ((py + 0.5) * source.height) / height - 0.5;
  if (method === 'nearest') {
    const x = Math.min(size.width - 1, Math.max(0, Math.floor(cx + 0.5)));
    const y = Math.min(size.height - 1, Math.max(0, Math.floor(cy + 0.5)));
    return plane[y * size.width + x]!;
  }
  const kernel = textbook[method];
  const wx = Math.max(1, source.width / width);
  const wy = Math.max(1, source.height / height);
  let sum = 0;
  let total = 0;
  for (let y = 0; y < size.height; y++) {
    if (Math.abs(y - cy) > kernel.radius * wy) continue;
    for (let x = 0; x < size.width; x++) {
      const weight = kernel.at((x - cx) / wx) * kernel.at((y - cy) / wy);
      sum += weight * plane[y * size.width + x]!;
      total += weight;
    }
  }
  return sum / total;
}

const size = { width: 41, height: 29 };
const picture = testPicture(size, 7);
const run = (upright: Upright & Partial<EnlargeNumbers>, raster = picture) => {
  const numbers = { turn: 0 as const, straighten: 0, ...upright };
  const to = { width: numbers.width, height: numbers.height };
  return enlarge.apply({ region: whole(size), raster }, numbers, whole(to), {
    from: size,
    to,
  });
};

describe.each(Method.options)('%s', (method) => {
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
      for (let x = 0; x < width; x++) {
        const expected = reference(picture.planes[1]!, size, numbers, x, y);
        worst = Math.max(worst, Math.abs(result.planes[1]![y * width + x]! - expected));
      }
    expect(worst).toBeLessThan(LEVEL / 1000);
  });

  it('keeps a flat picture flat to the last level', () => {
    const flat = emptyRaster(size.width, size.height, 3);
    flat.planes.forEach((plane) => plane.fill(0.62));
    const to = { width: 97, height: 71 };
    const source = { x: 0, y: 0, ...size };
    const result = run({ method, source, ...to }, flat);
    for (const value of result.planes[2]!) expect(Math.abs(value - 0.62)).toBeLessThan(1e-6);
  });

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
  for (const method of Method.options) {
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
  const smooth = emptyRaster(size.width, size.height, 3);
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
  const seen = emptyRaster(size.width, size.height, 4);
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
