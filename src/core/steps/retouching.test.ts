import { describe, expect, it } from 'vitest';
import { psnr } from '../inspect/compare';
import { luminance, toYCbCr } from '../raster/colour';
import { cut, emptyRaster, type Raster } from '../raster/raster';
import { whole, type Region, type Size } from '../raster/region';
import { nothingBeside, random, testContext, testPicture } from '../testing';
import { banding } from './banding/banding';
import { fringes } from './fringes/fringes';
import { smooth } from './smooth/smooth';
import { specks } from './specks/specks';
import type { Beside } from './step';
import { texture } from './texture/texture';
import { tones } from './tones/tones';
import { RGB, RGBA } from '../raster/form';

const size: Size = { width: 64, height: 48 };
const grids = { from: size, to: size };
const windowOf = (raster: Raster) => ({ region: whole(size), raster });
const place = (x: number, y: number) => y * size.width + x;

/** A picture of one colour, but for what is drawn on it. */
function plain(
  colour: [number, number, number],
  draw: (x: number, y: number) => [number, number, number] | null = () => null,
): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const value = draw(x, y) ?? colour;
      value.forEach((level, c) => (raster.planes[c]![place(x, y)] = level / 255));
    }
  return raster;
}

describe('specks', () => {
  const run = (raster: Raster, threshold = 24) =>
    specks.apply(windowOf(raster), { threshold: threshold / 255 }, whole(size), grids);

  it('of a single pixel go, all channels alike', () => {
    const grey = plain([100, 110, 120], (x, y) => (x === 20 && y === 15 ? [250, 40, 250] : null));
    const result = run(grey);
    [100, 110, 120].forEach((level, c) =>
      expect(result.planes[c]![place(20, 15)]).toBeCloseTo(level / 255, 5),
    );
  });

  it('are told from lines, corners and edges, which stay to the byte', () => {
    for (const draw of [
      (x: number) => x === 20,
      (x: number, y: number) => x > 20 && y > 15,
      (x: number, y: number) => x === y,
    ]) {
      const picture = plain([90, 90, 90], (x, y) => (draw(x, y) ? [220, 220, 220] : null));
      expect(run(picture)).toEqual(picture);
    }
  });

  it('below the threshold stay', () => {
    const faint = plain([100, 100, 100], (x, y) => (x === 20 && y === 15 ? [115, 115, 115] : null));
    expect(run(faint)).toEqual(faint);
  });
});

describe('fringes', () => {
  /** A dark roof against the sky with a purple rim of two pixels. */
  const fringed = plain([190, 205, 220], (x) =>
    x < 30 ? [40, 40, 45] : x < 32 ? [170, 110, 210] : null,
  );
  const run = (raster: Raster) =>
    fringes.apply(windowOf(raster), { radius: 3, threshold: 12 }, whole(size), grids);

  it('lose their colour and keep their lightness', () => {
    const result = run(fringed);
    const before = toYCbCr(fringed);
    const after = toYCbCr(result);
    const i = place(30, 20);
    const sky = place(50, 20);
    const off = (of: typeof before) =>
      Math.hypot(of.cb[i]! - before.cb[sky]!, of.cr[i]! - before.cr[sky]!);
    expect(off(before)).toBeGreaterThan(30);
    expect(off(after)).toBeLessThan(0.35 * off(before));
    expect(after.y[i]).toBeCloseTo(before.y[i]!, 2);
  });

  it('make none where there were none: pixels on an edge stay mixtures of both sides', () => {
    // A cream dome against a violet sky, as a lens draws it: over four pixels.
    const [dome, sky] = [
      [230, 220, 200],
      [120, 110, 170],
    ];
    const edge = plain([0, 0, 0], (x) => {
      const share = Math.min(1, Math.max(0, (x - 28) / 4));
      return dome!.map((value, c) => value + share * (sky![c]! - value)) as [
        number,
        number,
        number,
      ];
    });
    const [before, after] = [toYCbCr(edge), toYCbCr(run(edge))];
    for (let x = 24; x < 38; x++) {
      const i = place(x, 20);
      expect(Math.abs(after.cb[i]! - before.cb[i]!)).toBeLessThan(6);
      expect(Math.abs(after.cr[i]! - before.cr[i]!)).toBeLessThan(6);
    }
  });

  it('leave colour alone where there is no hard edge', () => {
    const soft = plain([120, 120, 120], (x) => [120 + x, 120, 150 - x]);
    expect(run(soft)).toEqual(soft);
  });
});

describe('smoothing', () => {
  const run = (raster: Raster, radius: number, threshold: number) =>
    smooth.apply(windowOf(raster), { radius, threshold }, whole(size), grids);
  const next = random(3);
  const rough = plain([0, 0, 0], (x) => {
    const level = (x < 32 ? 80 : 180) + 6 * (next() - 0.5);
    return [level, level, level];
  });

  it('evens out what hardly differs and keeps the edge', () => {
    const result = run(rough, 2, 10);
    const spread = (raster: Raster) => {
      const row = [...raster.planes[0]!.subarray(place(4, 20), place(28, 20))];
      const mean = row.reduce((sum, value) => sum + value, 0) / row.length;
      return Math.sqrt(row.reduce((sum, value) => sum + (value - mean) ** 2, 0) / row.length);
    };
    expect(spread(result)).toBeLessThan(0.45 * spread(rough));
    const edge = result.planes[0]![place(33, 20)]! - result.planes[0]![place(30, 20)]!;
    expect(edge).toBeGreaterThan(95 / 255);
  });

  it('leaves transparency as it is', () => {
    const { planes, ...rest } = testPicture(size, 6);
    const alpha = Float32Array.from({ length: planes[0]!.length }, (_, i) => (i % 7) / 6);
    const result = run({ ...rest, form: RGBA, planes: [...planes, alpha] }, 2, 20);
    expect(result.planes[3]).toEqual(alpha);
    expect(result.planes.slice(0, 3)).toEqual(run({ ...rest, planes }, 2, 20).planes);
  });

  it('is the same wherever a part of a larger picture begins', () => {
    const large = { width: 530, height: 270 };
    const raster = testPicture(large, 9);
    const of = (region: Region) =>
      smooth.apply({ region: whole(large), raster }, { radius: 3, threshold: 9 }, region, {
        from: large,
        to: large,
      });
    const part = { x: 240, y: 250, width: 40, height: 20 };
    expect(of(part)).toEqual(cut({ region: whole(large), raster: of(whole(large)) }, part));
  });

  it('is the bilateral filter by its formula', () => {
    const picture = testPicture(size, 8);
    const luma = luminance(picture);
    const [radius, threshold] = [1.4, 12];
    const result = run(picture, radius, threshold);
    const reach = Math.ceil(2.5 * radius);
    for (const [x, y] of [
      [0, 0],
      [30, 20],
      [63, 47],
    ] as const) {
      let sum = 0;
      let total = 0;
      for (let v = Math.max(0, y - reach); v <= Math.min(47, y + reach); v++)
        for (let u = Math.max(0, x - reach); u <= Math.min(63, x + reach); u++) {
          const off = ((luma[place(u, v)]! - luma[place(x, y)]!) * 255) / threshold;
          if (Math.abs(off) >= 3) continue;
          const near = Math.exp(-((u - x) ** 2 + (v - y) ** 2) / (2 * radius * radius));
          const weight = near * Math.exp((-off * off) / 2);
          sum += weight * picture.planes[1]![place(u, v)]!;
          total += weight;
        }
      expect(result.planes[1]![place(x, y)]).toBeCloseTo(sum / total, 4);
    }
  });

  it('is next to nothing at the smallest radius', () => {
    const result = run(rough, 0.01, 10);
    result.planes[0]!.forEach((value, i) => expect(value).toBeCloseTo(rough.planes[0]![i]!, 6));
  });
});

describe('banding', () => {
  const run = (raster: Raster, threshold = 2.5) =>
    banding.apply(windowOf(raster), { radius: 12, threshold }, whole(size), grids);

  it('becomes an even climb', () => {
    const climb = (x: number) => 100 + x / 8;
    const stepped = plain([0, 0, 0], (x) => {
      const level = Math.round(climb(x));
      return [level, level, level];
    });
    const truth = plain([0, 0, 0], (x) => [climb(x), climb(x), climb(x)]);
    const result = run(stepped);
    const inner = { x: 14, y: 14, width: 36, height: 20 };
    const part = (raster: Raster) => cut({ region: whole(size), raster }, inner).planes[0]!;
    expect(psnr(part(result), part(truth)) - psnr(part(stepped), part(truth))).toBeGreaterThan(4);
  });

  it('leaves edges and texture as they are', () => {
    const edge = plain([60, 60, 60], (x) => (x > 30 ? [160, 160, 160] : null));
    expect(run(edge)).toEqual(edge);
    const checks = plain([60, 60, 60], (x, y) => ((x + y) % 2 ? [90, 90, 90] : null));
    expect(run(checks)).toEqual(checks);
  });
});

describe('tones', () => {
  const apply = (raster: Raster, numbers: Parameters<typeof tones.apply>[1]) =>
    tones.apply(windowOf(raster), numbers, whole(size));
  const faded = testContext(size, {
    tones: { black: [0.2, 0.15, 0.1], white: [0.9, 0.8, 0.7] },
  });

  it('bring black and white points of each channel back to the ends', () => {
    const numbers = tones.resolve(tones.defaults, faded)!;
    const ends = plain([0, 0, 0], (x) => (x < 32 ? [51, 38.25, 25.5] : [229.5, 204, 178.5]));
    const result = apply(ends, numbers);
    for (const plane of result.planes) {
      expect(plane[place(5, 5)]).toBeCloseTo(0, 5);
      expect(plane[place(50, 5)]).toBeCloseTo(1, 5);
    }
  });

  it('do so in part at a part of their strength', () => {
    const { gain, offset } = tones.resolve({ ...tones.defaults, points: 50 }, faded)!;
    expect(gain[0] * 0.1 + offset[0]).toBeCloseTo(0, 6);
    expect(gain[0] * 0.95 + offset[0]).toBeCloseTo(1, 6);
  });

  it('keep the colour of the light where all colours go by the same points', () => {
    const { gain, offset } = tones.resolve({ ...tones.defaults, cast: 0 }, faded)!;
    expect(new Set(gain).size).toBe(1);
    expect(gain[0] * 0.1 + offset[0]).toBeCloseTo(0, 6);
    expect(gain[0] * 0.9 + offset[0]).toBeCloseTo(1, 6);
    // A treatment that knows nothing of it goes by each colour's own, as it did.
    const { cast: _, ...older } = tones.defaults;
    expect(tones.resolve(tones.settings.parse(older), faded)).toEqual(
      tones.resolve(tones.defaults, faded),
    );
  });

  it('are nothing where nothing is to be done', () => {
    expect(tones.resolve(tones.defaults, testContext(size))).toBeNull();
    expect(tones.resolve({ ...tones.defaults, points: 0 }, faded)).toBeNull();
  });

  it('brighten with exposure, redden with warmth, and grey out without saturation', () => {
    const grey = plain([100, 100, 100]);
    const with_ = (settings: object) =>
      apply(grey, tones.resolve({ ...tones.defaults, ...settings }, testContext(size))!);
    expect(with_({ exposure: 1 }).planes[0]![0]).toBeCloseTo((100 / 255) * 2 ** (1 / 2.2), 5);
    const warm = with_({ warmth: 60 });
    expect(warm.planes[0]![0]).toBeGreaterThan(warm.planes[2]![0]!);
    const red = plain([200, 60, 60]);
    const numbers = tones.resolve({ ...tones.defaults, saturation: -100 }, testContext(size))!;
    const flat = apply(red, numbers);
    expect(flat.planes[0]![0]).toBeCloseTo(flat.planes[1]![0]!, 6);
    expect(luminance(flat)[0]).toBeCloseTo(luminance(red)[0]!, 5);
  });

  it('steepen the middle with contrast and keep black, white and middle', () => {
    const steep = tones.resolve({ ...tones.defaults, contrast: 60 }, testContext(size))!;
    const at = (level: number) => apply(plain([level, level, level]), steep).planes[0]![0]! * 255;
    expect(at(0)).toBe(0);
    expect(at(255)).toBeCloseTo(255, 4);
    expect(at(127.5)).toBeCloseTo(127.5, 3);
    expect(at(90)).toBeLessThan(85);
    expect(at(165)).toBeGreaterThan(170);
  });
});

describe('texture', () => {
  const before = testPicture(size, 2);
  const after = plain([120, 120, 120]);
  const beside: Beside = { ...nothingBeside, untreated: windowOf(before) };
  const run = (numbers: object) =>
    texture.apply(
      windowOf(after),
      { returned: 0, finer: 1.2, grain: 0, grainSize: 0.7, ...numbers },
      whole(size),
      grids,
      beside,
    );

  it('gives the finest of luminance back, in the measure that is asked for', async () => {
    const half = luminance(await run({ returned: 0.5 }));
    const full = luminance(await run({ returned: 1 }));
    const plainLuma = luminance(after);
    for (let i = 0; i < full.length; i += 11) {
      expect(half[i]! - plainLuma[i]!).toBeCloseTo((full[i]! - plainLuma[i]!) / 2, 5);
    }
    const spread = Math.sqrt(
      full.reduce((s, v, i) => s + (v - plainLuma[i]!) ** 2, 0) / full.length,
    );
    expect(spread).toBeGreaterThan(0.02);
    // Fine detail only: it leaves the mean of a place where it was.
    const mean = full.reduce((s, v, i) => s + v - plainLuma[i]!, 0) / full.length;
    expect(Math.abs(mean)).toBeLessThan(0.002);
  });

  it('adds grain of the standard deviation that is asked for, alike to all channels', async () => {
    const result = await run({ grain: 5 / 255 });
    const off = result.planes[0]!.map((value, i) => value - after.planes[0]![i]!);
    const spread = Math.sqrt(off.reduce((sum, value) => sum + value * value, 0) / off.length) * 255;
    expect(spread).toBeGreaterThan(3.5);
    expect(spread).toBeLessThan(6.5);
    off.forEach((value, i) =>
      expect(result.planes[2]![i]! - after.planes[2]![i]!).toBeCloseTo(value, 6),
    );
  });

  it('has nothing to do without either', () => {
    const none = { returned: 0, finer: 1, grain: 0, grainSize: 1 } as const;
    expect(texture.resolve(none, testContext(size))).toBeNull();
    const auto = texture.resolve(
      { ...none, grain: 'auto' },
      testContext(size, { noise: { luma: 3, colour: 2 } }),
    );
    expect(auto!.grain).toBeCloseTo(3 / 255, 6);
  });
});
