import { describe, expect, it } from 'vitest';
import { grow, whole } from '../raster/region';
import { luminanceWindow, random, testPicture } from '../testing';
import { limitOf, NO_GUARDS, REACH_MOST, scaledLimit, USUAL_GUARDS } from './guards';
import { held, type Wanted } from './hold';
import { protectionOf } from './protection';

const size = { width: 41, height: 33 };

describe('the overshoot limit', () => {
  const before = luminanceWindow(testPicture(size, 2));
  const [was] = before.raster.planes as [Float32Array];
  const next = random(9);
  const wild = was.map(() => next() * 2 - 0.5);
  const all = { share: 1, limits: undefined };
  const hold = (plane: Float32Array, limit: Parameters<typeof held>[2], wanted: Wanted = all) => {
    const done = { ...before, raster: { ...before.raster, planes: [plane] } };
    return held(before, done, limit, wanted, whole(size), size).planes[0]!;
  };

  it.each([
    { reach: 1, light: 0, dark: 0 },
    { reach: 3, light: 8 / 255, dark: 12 / 255 },
    { reach: 9, light: 0.1, dark: 0 },
  ])('holds for every pixel: %j', (limit) => {
    const luma = hold(wild, limit);
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

  it('leaves what keeps to it as it is', () => {
    expect(hold(was.slice(), { reach: 2, light: 0.02, dark: 0.02 })).toEqual(was);
  });

  it('lays over what there was as strongly as is wanted, where it is', () => {
    const limit = { reach: 2, light: 0.02, dark: 0.02 };
    const strengths = was.map((_, i) => (i % 3) / 2);
    const limits = { ...before, raster: { ...before.raster, planes: [strengths] } };
    const whole = hold(wild, limit);
    const part = hold(wild, limit, { share: 0.5, limits });
    part.forEach((value, i) =>
      expect(value).toBeCloseTo(was[i]! + 0.5 * strengths[i]! * (whole[i]! - was[i]!), 5),
    );
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
