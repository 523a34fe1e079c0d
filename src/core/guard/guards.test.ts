import { describe, expect, it } from 'vitest';
import { luminance } from '../raster/colour';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB, RGBA } from '../raster/form';
import { grow, whole } from '../raster/region';
import { random, testPicture } from '../testing';
import { limitOf, NO_GUARDS, REACH_MOST, scaledLimit, USUAL_GUARDS } from './guards';
import { held } from './hold';
import { protectionOf } from './protection';

const size = { width: 41, height: 33 };

describe('the overshoot limit', () => {
  const before = testPicture(size, 2);
  const next = random(9);
  const wild = emptyRaster(size.width, size.height, RGB);
  wild.planes.forEach((plane) => plane.forEach((_, i) => (plane[i] = next() * 2 - 0.5)));
  const hold = (done: Raster, limit: Parameters<typeof held>[2]) =>
    held(
      { region: whole(size), raster: before },
      { region: whole(size), raster: done },
      limit,
      { share: 1, limits: undefined },
      whole(size),
      size,
    );

  it.each([
    { reach: 1, light: 0, dark: 0 },
    { reach: 3, light: 8 / 255, dark: 12 / 255 },
    { reach: 9, light: 0.1, dark: 0 },
  ])('holds for every pixel: %j', (limit) => {
    const luma = luminance(hold(wild, limit));
    const was = luminance(before);
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < size.width; x++) {
        const about = grow({ x, y, width: 1, height: 1 }, limit.reach, size);
        let low = Infinity;
        let high = -Infinity;
        for (let v = about.y; v < about.y + about.height; v++)
          for (let u = about.x; u < about.x + about.width; u++) {
            low = Math.min(low, was[v * size.width + u]!);
            high = Math.max(high, was[v * size.width + u]!);
          }
        const value = luma[y * size.width + x]!;
        expect(value).toBeGreaterThanOrEqual(low - limit.dark - 1e-6);
        expect(value).toBeLessThanOrEqual(high + limit.light + 1e-6);
      }
  });

  it('leaves what keeps to it as it is, and changes R, G and B alike', () => {
    const limit = { reach: 2, light: 0.02, dark: 0.02 };
    expect(hold(before, limit).planes[1]).toEqual(before.planes[1]);
    const bright = emptyRaster(size.width, size.height, RGB);
    before.planes.forEach((plane, c) => bright.planes[c]!.set(plane.map((v) => v + 0.5 + c / 10)));
    const kept = hold(bright, limit);
    for (let i = 0; i < 50; i++) {
      const change = [0, 1, 2].map((c) => kept.planes[c]![i]! - bright.planes[c]![i]!);
      expect(change[1]).toBeCloseTo(change[0]!, 6);
      expect(change[2]).toBeCloseTo(change[0]!, 6);
      expect(change[0]).toBeLessThan(0);
    }
  });

  it('takes transparency over', () => {
    const clear = emptyRaster(size.width, size.height, RGBA);
    clear.planes[3]!.fill(0.25);
    expect(hold(clear, { reach: 1, light: 0, dark: 0 }).planes[3]).toEqual(clear.planes[3]);
  });

  it('reaches as far as a step looks, and no farther than it may', () => {
    expect(limitOf(USUAL_GUARDS, 2.2)).toEqual({ reach: 3, light: 8 / 255, dark: 12 / 255 });
    expect(limitOf(USUAL_GUARDS, 400)!.reach).toBe(REACH_MOST);
    expect(limitOf(NO_GUARDS, 2)).toBeUndefined();
    expect(scaledLimit({ reach: 3, light: 1, dark: 1 }, 0.1).reach).toBe(1);
  });
});

describe('what is protected', () => {
  it('follows from noise and from how sharp the picture is', () => {
    expect(protectionOf(NO_GUARDS, { noise: 3, edgeWidth: 2 })).toBeUndefined();
    const map = protectionOf(USUAL_GUARDS, { noise: 3, edgeWidth: 2 })!;
    expect(map.inverted).toBe(true);
    expect(map.parts.map(({ kind }) => kind)).toEqual(['skin', 'edges', 'flat', 'soft']);
    expect(map.parts[2]).toMatchObject({ level: 6 });
    expect(map.parts[3]).toMatchObject({ width: 4.4 });
  });
});
