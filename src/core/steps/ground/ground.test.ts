import { describe, expect, it } from 'vitest';
import { measureGrounds } from '../../inspect/grounds';
import { STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import type { JpegFacts } from '../../inspect/jpeg';
import { samplePicture } from '../../inspect/patches';
import { RGB } from '../../raster/form';
import { emptyRaster, type Raster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { memorySource, nothingBeside, random, testContext } from '../../testing';
import { ground } from './ground';

const size = { width: 192, height: 128 };
type Colour = readonly [number, number, number];
const CREAM: Colour = [240, 230, 205];
const NAVY: Colour = [20, 30, 80];

/** A picture of levels by place. */
function painted(of: (x: number, y: number) => Colour): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++)
      of(x, y).forEach((level, c) => (raster.planes[c]![i] = level / 255));
  return raster;
}

const mixed = (a: Colour, b: Colour, share: number): Colour => [
  a[0] + share * (b[0] - a[0]),
  a[1] + share * (b[1] - a[1]),
  a[2] + share * (b[2] - a[2]),
];
/** How much of a pixel a bar with a soft edge covers. */
const bar = (x: number) => Math.min(1, Math.max(0, 12.5 - Math.abs(x - 96)));
const clean = painted((x) => mixed(CREAM, NAVY, bar(x)));

/** Ripples that fade away from the bar, as compression leaves them. */
const next = random(3);
const rippled = painted((x, y) => {
  const [r, g, b] = mixed(CREAM, NAVY, bar(x));
  const from = Math.abs(x - 96) - 12;
  const ripple = Math.abs(from) < 9 && from !== 0 ? 4 * (next() - 0.5) * (y % 2 ? 1 : -1) : 0;
  return [r + ripple, g + ripple, b - ripple];
});

const grounds = async (of: Raster) =>
  measureGrounds((await samplePicture(memorySource(of))).patches);
const jpeg = { luma: tableAtQuality(STANDARD_LUMA, 60), chroma: null } as unknown as JpegFacts;
const done = async (of: Raster, found: Awaited<ReturnType<typeof grounds>>) => {
  const numbers = ground.resolve(ground.defaults, testContext(size, { grounds: found, jpeg }))!;
  const grids = { from: size, to: size };
  const window = { region: whole(size), raster: of };
  return ground.apply(window, numbers, whole(size), grids, nothingBeside);
};
/** The farthest that two pictures are apart, in levels, where something holds. */
function apart(one: Raster, other: Raster, where: (x: number) => boolean): number {
  let most = 0;
  one.planes.forEach((plane, c) =>
    plane.forEach((value, i) => {
      if (!where(i % size.width)) return;
      most = Math.max(most, 255 * Math.abs(value - other.planes[c]![i]!));
    }),
  );
  return most;
}

describe('the grounds of a drawing', () => {
  it('are its flat colours, the most frequent first', async () => {
    const found = await grounds(clean);
    expect(found.map((one) => one.map((value) => Math.round(255 * value)))).toEqual([
      [...CREAM],
      [...NAVY],
    ]);
  });

  it('are none in a gradient, nor in what is busy', async () => {
    expect(await grounds(painted((x) => mixed(CREAM, NAVY, x / 192)))).toEqual([]);
    const noise = random(5);
    expect(await grounds(painted(() => mixed(CREAM, NAVY, noise())))).toEqual([]);
  });
});

describe('even ground', () => {
  it('takes ripples off a ground wholly, and leaves its edges as soft as they are', async () => {
    const found = await grounds(clean);
    const result = await done(rippled, found);
    const flat = (x: number) => Math.abs(x - 96) > 14 || Math.abs(x - 96) < 10;
    expect(apart(rippled, clean, flat)).toBeGreaterThan(1.5);
    expect(apart(result, clean, flat)).toBeLessThan(0.01);
    const edge = (x: number) => bar(x) > 0.1 && bar(x) < 0.9;
    expect(apart(result, rippled, edge)).toBe(0);
  });

  it('leaves a gradient that passes the colour of a ground', async () => {
    const gradient = painted((x) => mixed(CREAM, NAVY, x / 400));
    const result = await done(gradient, [[CREAM[0] / 255, CREAM[1] / 255, CREAM[2] / 255]]);
    expect(apart(result, gradient, () => true)).toBeLessThan(2.5);
  });

  it('has nothing to do without grounds, or where nothing was compressed', () => {
    const one = [[0.5, 0.5, 0.5]] as [number, number, number][];
    expect(ground.resolve(ground.defaults, testContext(size, { grounds: [], jpeg }))).toBeNull();
    expect(ground.resolve(ground.defaults, testContext(size, { grounds: one }))).toBeNull();
    expect(
      ground.resolve({ tolerance: 3 }, testContext(size, { grounds: one }))!.tolerances[0],
    ).toBeCloseTo(3 / 255, 6);
  });

  it('keeps two grounds apart that are alike', () => {
    const near = [
      [0.5, 0.5, 0.5],
      [0.5 + 5 / 255, 0.5, 0.5],
    ] as [number, number, number][];
    const { tolerances } = ground.resolve({ tolerance: 20 }, testContext(size, { grounds: near }))!;
    for (const tolerance of tolerances) expect(255 * tolerance).toBeLessThanOrEqual(1.001);
  });
});
