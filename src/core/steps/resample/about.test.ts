import { describe, expect, it } from 'vitest';
import { rotation } from '../../frame/framing';
import type { Raster, Window } from '../../raster/raster';
import { whole, type Region, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { testPicture } from '../../testing';
import type { Slant } from './grid';
import { kernels, SEPARABLE, type SeparableKernel } from './kernels';
import { resampleJinc, jincKernel } from './jinc';
import { resampleSlanted } from './slanted';

const size: Size = { width: 43, height: 31 };
const picture = testPicture(size, 4);
const input: Window = { region: whole(size), raster: picture };
type Method = SeparableKernel | 'round';

const resampled = (
  method: Method,
  slant: Slant,
  region = whole(slant.target),
  limit = 0,
): Raster =>
  method === 'round'
    ? resampleJinc(input, slant, region, limit)
    : resampleSlanted(input, slant, method, region, limit);

const clamped = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** Where a pixel of the target lies on the picture, worked out from the middles of both. */
function centreOf({ source, target, degrees }: Slant, px: number, py: number) {
  const { cos, sin } = rotation(degrees);
  const x = source.x + ((px + 0.5) * source.width) / target.width - size.width / 2;
  const y = source.y + ((py + 0.5) * source.height) / target.height - size.height / 2;
  return {
    x: size.width / 2 + x * cos + y * sin - 0.5,
    y: size.height / 2 - x * sin + y * cos - 0.5,
  };
}

/** One pixel by the formula, over the whole picture, in double precision. */
function reference(method: Method, slant: Slant, px: number, py: number, limit = 0): number {
  const plane = picture.planes[1]!;
  const { source, target, degrees } = slant;
  const { cos, sin } = rotation(degrees);
  const wideX = Math.max(1, source.width / target.width);
  const wideY = Math.max(1, source.height / target.height);
  const rim = method === 'round' ? 0.5 : 0;
  const centre = centreOf(slant, px, py);
  const cx = clamped(centre.x, -rim, size.width - 1 + rim);
  const cy = clamped(centre.y, -rim, size.height - 1 + rim);
  let sum = 0;
  let total = 0;
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const [dx, dy] = [x - cx, y - cy];
      // The round kernel is wider along the target's axes, the others alike along the picture's.
      const wide = Math.max(wideX, wideY);
      const weight =
        method === 'round'
          ? jincKernel(Math.hypot((dx * cos - dy * sin) / wideX, (dx * sin + dy * cos) / wideY))
          : kernels[method].weight(dx / wide) * kernels[method].weight(dy / wide);
      sum += weight * plane[y * size.width + x]!;
      total += weight;
    }
  const is = sum / total;
  if (limit === 0 || wideX > 1 || wideY > 1) return is;
  const near: number[] = [];
  for (let y = Math.floor(cy) - 1; y <= Math.floor(cy) + 2; y++)
    for (let x = Math.floor(cx) - 1; x <= Math.floor(cx) + 2; x++)
      if (x >= 0 && y >= 0 && x < size.width && y < size.height)
        near.push(plane[y * size.width + x]!);
  return is + limit * (clamped(is, Math.min(...near), Math.max(...near)) - is);
}

function worstOf(method: Method, slant: Slant, limit = 0): number {
  const found = resampled(method, slant, whole(slant.target), limit).planes[1]!;
  let worst = 0;
  for (let y = 0; y < slant.target.height; y++)
    for (let x = (3 * y) % 7; x < slant.target.width; x += 7) {
      const expected = reference(method, slant, x, y, limit);
      worst = Math.max(worst, Math.abs(found[y * slant.target.width + x]! - expected));
    }
  return worst;
}

const inside: Region = { x: 9, y: 7, width: 24, height: 16 };

describe.each([...SEPARABLE, 'round'] as const)('at a slant, %s', (method) => {
  it.each<[string, Omit<Slant, 'frame'>]>([
    ['enlarging', { source: inside, target: { width: 150, height: 100 }, degrees: 6 }],
    [
      'enlarging over the rim',
      { source: whole(size), target: { width: 90, height: 70 }, degrees: -8 },
    ],
    ['reducing', { source: whole(size), target: { width: 17, height: 9 }, degrees: 3 }],
    ['reducing by dozens', { source: whole(size), target: { width: 2, height: 1 }, degrees: -12 }],
    ['to a single pixel', { source: inside, target: { width: 1, height: 1 }, degrees: 11 }],
    ['upright', { source: inside, target: { width: 61, height: 40 }, degrees: 0 }],
  ])('stays within 1/1000 of a level of the formula, %s', (_, slant) => {
    expect(worstOf(method, { ...slant, frame: size })).toBeLessThan(LEVEL / 1000);
  });

  it('is drawn back between the pixels next to it by a share of the way', () => {
    const slant = { source: inside, target: { width: 80, height: 53 }, frame: size, degrees: 4 };
    expect(worstOf(method, slant, 0.7)).toBeLessThan(LEVEL / 1000);
  });

  it('gives the same bits wherever a part of it begins', () => {
    const slant = { source: inside, target: { width: 300, height: 200 }, frame: size, degrees: -5 };
    const all = resampled(method, slant).planes[0]!;
    const part: Region = { x: 101, y: 57, width: 90, height: 85 };
    resampled(method, slant, part).planes[0]!.forEach((value, i) => {
      const at = (part.y + Math.floor(i / part.width)) * 300 + part.x + (i % part.width);
      expect(value).toBe(all[at]);
    });
  });

  it('weighs every channel by itself, whether there are one, two or five', () => {
    const slant = { source: inside, target: { width: 40, height: 27 }, frame: size, degrees: 2 };
    const [red, green, blue] = resampled(method, slant).planes;
    for (const order of [[2], [1, 0], [0, 1, 2, 0, 1]]) {
      const planes = order.map((channel) => picture.planes[channel]!);
      const form = { colours: order.length, alpha: false, space: 'device press' } as const;
      const other: Window = { region: whole(size), raster: { ...size, form, planes } };
      const found =
        method === 'round'
          ? resampleJinc(other, slant, whole(slant.target))
          : resampleSlanted(other, slant, method, whole(slant.target));
      expect(found.planes).toEqual(order.map((channel) => [red, green, blue][channel]));
    }
  });
});

describe('nearest neighbour at a slant', () => {
  it('repeats the pixel that a place lies on', () => {
    const slant = { source: inside, target: { width: 70, height: 50 }, frame: size, degrees: 9 };
    const found = resampleSlanted(input, slant, 'nearest', whole(slant.target)).planes[2]!;
    for (let y = 0; y < 50; y++)
      for (let x = 0; x < 70; x++) {
        const centre = centreOf(slant, x, y);
        const at = Math.round(centre.y) * size.width + Math.round(centre.x);
        expect(found[y * 70 + x]).toBe(picture.planes[2]![at]);
      }
  });
});
