import { describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { memorySource, random } from '../testing';
import { measureFinishing, seenRims, tooMuch, unseenRim, type FinishFigures } from './finishing';

const size = { width: 320, height: 320 };

/** Grey by place. */
function picture(value: (x: number, y: number) => number): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const grey = value(x, y);
      for (const plane of raster.planes) plane[y * size.width + x] = grey;
    }
  return raster;
}

const edge = (x: number) => (x % 80 < 40 ? 0.3 : 0.6);
const noise = (levels: number) => {
  const next = random(8);
  return () => ((next() + next() + next() - 1.5) * 2 * levels) / 255;
};

describe('what finishing did beside what it was for', () => {
  it('is nothing where nothing was done', async () => {
    const same = memorySource(picture((x) => edge(x)));
    expect(await measureFinishing(same, same, 3)).toEqual({
      overshoot: { light: 0, dark: 0 },
      rim: 0,
      noise: { before: 0, after: 0, grain: 3 },
    });
  });

  it.each([
    ['upright', (x: number) => x],
    ['level', (_: number, y: number) => y],
  ])('shows rims along %s edges, as high and wide as they are', async (_, along) => {
    const before = picture((x, y) => edge(along(x, y)));
    const after = picture((x, y) => {
      const at = along(x, y) % 80;
      const light = at >= 40 && at < 44 ? 9 / 255 : 0;
      const dark = at >= 34 && at < 40 ? 14 / 255 : 0;
      return edge(along(x, y)) + light - dark;
    });
    const found = await measureFinishing(memorySource(before), memorySource(after), 3);
    expect(found.overshoot.light).toBeCloseTo(9, 3);
    expect(found.overshoot.dark).toBeCloseTo(14, 3);
    expect(found.rim).toBe(6);
  });

  it('tells how much noise of flat areas grew', async () => {
    const [few, many] = [noise(1), noise(3)];
    const found = await measureFinishing(
      memorySource(picture(() => 0.5 + few())),
      memorySource(picture(() => 0.5 + many())),
      3,
    );
    expect(found.noise.before).toBeGreaterThan(0.7);
    expect(found.noise.before).toBeLessThan(1.05);
    expect(found.noise.after / found.noise.before).toBeCloseTo(3, 0);
  });

  it('tells it of grains that were enlarged', async () => {
    const enlarged = (levels: number) => {
      const next = noise(levels);
      const grains = new Map<string, number>();
      return picture((x, y) => {
        // Four pixels a grain, and soft between them.
        const key = `${x >> 2} ${y >> 2}`;
        if (!grains.has(key)) grains.set(key, next());
        return 0.5 + grains.get(key)!;
      });
    };
    const [few, many] = [memorySource(enlarged(2)), memorySource(enlarged(4))];
    const found = await measureFinishing(few, many, 4);
    // The quietest fifth of squares, of few grains each.
    expect(found.noise.before).toBeGreaterThan(0.7);
    expect(found.noise.before).toBeLessThan(2.2);
    expect(found.noise.after / found.noise.before).toBeCloseTo(2, 0);
  });

  it('looks at a picture that is smaller than a place', async () => {
    const small = emptyRaster(30, 20, RGB);
    const found = await measureFinishing(memorySource(small), memorySource(small), 8);
    expect(found.overshoot.light).toBe(0);
  });
});

describe('rims that would be seen', () => {
  const before = picture((x) => edge(x));
  const after = picture((x) => edge(x) + (x % 80 >= 40 && x % 80 < 44 ? 9 / 255 : 0));
  const place = { x: 20, y: 10, width: 120, height: 40 };
  const marks = (distance: number) =>
    seenRims(memorySource(before), memorySource(after), place, 3, { ppi: 127, distance });

  it('are marked where they are, from nearby', async () => {
    (await marks(0.5)).forEach((value, i) => {
      const x = (place.x + (i % place.width)) % 80;
      expect(value > 0, String(x)).toBe(x >= 40 && x < 44);
    });
  });

  it('are none from where they run together with what is about them', async () => {
    expect((await marks(20)).every((value) => value === 0)).toBe(true);
  });
});

describe('what would be seen', () => {
  const figures: FinishFigures = {
    overshoot: { light: 12, dark: 4 },
    rim: 5,
    noise: { before: 2, after: 6.2, grain: 1 },
  };

  it('is said from nearby, and not from where the eye makes nothing of it out', () => {
    const near = tooMuch(figures, { ppi: 150, distance: 0.5 });
    expect(near.overshoot).toMatch(/light side.* 0\.8 mm wide.*0\.5 m/);
    expect(near.noise).toMatch(/6\.2 levels/);
    expect(tooMuch(figures, { ppi: 150, distance: 12 })).toEqual({ overshoot: null, noise: null });
  });

  it('allows rims just as far as they are not seen', () => {
    for (const [mm, distance] of [
      [0.1, 0.5],
      [0.4, 0.5],
      [0.4, 6],
    ] as const) {
      const light = unseenRim(mm, distance);
      const rims = (by: number) => ({
        ...figures,
        overshoot: { light: by, dark: 0 },
        noise: { before: 0, after: 0, grain: 1 },
      });
      const at = { ppi: 127, distance };
      expect(tooMuch({ ...rims(light * 0.99), rim: mm * 5 }, at).overshoot).toBeNull();
      expect(tooMuch({ ...rims(light * 1.01), rim: mm * 5 }, at).overshoot).not.toBeNull();
    }
  });

  it('is nothing where noise did not grow, and rims stay low', () => {
    const quiet = {
      ...figures,
      overshoot: { light: 2, dark: 3 },
      noise: { before: 6, after: 6, grain: 1 },
    };
    expect(tooMuch(quiet, { ppi: 100, distance: 0.3 })).toEqual({ overshoot: null, noise: null });
  });
});
