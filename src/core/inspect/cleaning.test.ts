import { describe, expect, it } from 'vitest';
import { emptyRaster, type Raster } from '../raster/raster';
import { memorySource, random, testPicture } from '../testing';
import { measureCleaning } from './cleaning';
import { psnr, ssim } from './compare';
import { histogramOf } from './histogram';
import { measureTonePoints } from './tones';
import { RGB } from '../raster/form';

const size = { width: 400, height: 300 };

function scene(noise: number, blocks: number): Raster {
  const next = random(4);
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const block = blocks * (((x >> 3) * 7 + (y >> 3) * 13) % 5);
      const edge = x % 100 < 50 ? 0 : 70;
      const level = 80 + edge + x / 20 + block + noise * (next() + next() + next() - 1.5) * 2;
      for (const plane of raster.planes) plane[y * size.width + x] = level / 255;
    }
  return raster;
}

const NONE = { blocks: 0, noise: 0 };

describe('the figures of cleaning', () => {
  it('tell noise and blocks that went, and detail that stayed', async () => {
    const before = memorySource(scene(6, 6));
    const after = memorySource(scene(0, 0));
    const figures = await measureCleaning(before, after, { blocks: 40, noise: 6 });
    expect(figures.before).toEqual({ blocks: 40, noise: 6 });
    expect(figures.before.noise).toBeGreaterThan(4 * figures.after.noise + 1);
    expect(figures.before.blocks).toBeGreaterThan(figures.after.blocks + 5);
    expect(figures.detailKept).toBeGreaterThan(70);
  });

  it('tell detail that went', async () => {
    const flat = emptyRaster(size.width, size.height, RGB);
    const figures = await measureCleaning(memorySource(scene(0, 0)), memorySource(flat), NONE);
    expect(figures.detailKept).toBe(0);
    const same = await measureCleaning(memorySource(scene(2, 3)), memorySource(scene(2, 3)), {
      blocks: 17,
      noise: 2.5,
    });
    expect(same.detailKept).toBe(100);
    expect(same.before).toEqual(same.after);
  });

  it('are there for pictures smaller than a patch', async () => {
    const tiny = memorySource(testPicture({ width: 20, height: 9 }));
    expect((await measureCleaning(tiny, tiny, NONE)).detailKept).toBe(100);
  });
});

describe('comparing', () => {
  const a = testPicture(size, 1).planes[0]!;
  const noisy = a.map((value, i) => value + (i % 2 ? 0.03 : -0.03));

  it('finds likeness 1 where planes are equal, less with noise, least without structure', () => {
    expect(ssim(a, a, size)).toBeCloseTo(1, 10);
    const some = ssim(a, noisy, size);
    const none = ssim(a, new Float32Array(a.length).fill(0.5), size);
    expect(some).toBeLessThan(1);
    expect(none).toBeLessThan(some);
  });

  it('follows its formula on a single window', () => {
    const one = { width: 7, height: 7 };
    const next = random(1);
    const [p, q] = [0, 1].map(() => Float32Array.from({ length: 49 }, () => next())) as [
      Float32Array,
      Float32Array,
    ];
    const mean = (v: Float32Array) => v.reduce((s, x) => s + x, 0) / 49;
    const [mp, mq] = [mean(p), mean(q)];
    const cov = (v: Float32Array, w: Float32Array, mv: number, mw: number) =>
      v.reduce((s, x, i) => s + (x - mv) * (w[i]! - mw), 0) / 49;
    const expected =
      ((2 * mp * mq + 1e-4) * (2 * cov(p, q, mp, mq) + 9e-4)) /
      ((mp * mp + mq * mq + 1e-4) * (cov(p, p, mp, mp) + cov(q, q, mq, mq) + 9e-4));
    expect(ssim(p, q, one)).toBeCloseTo(expected, 8);
  });

  it('refuses planes of another size', () => {
    expect(() => ssim(a, a.subarray(1), size)).toThrow(RangeError);
    expect(() => ssim(a, a, { width: 5, height: 24_000 })).toThrow(RangeError);
    expect(() => psnr(a, a.subarray(1))).toThrow(RangeError);
  });
});

describe('tones', () => {
  it('are counted as they would be written, with what is clipped', () => {
    const raster = emptyRaster(4, 1, RGB);
    raster.planes[0]!.set([0, 0.5, 1, 1.4]);
    raster.planes[1]!.set([0.2, 0.5, 0.5, 0.5]);
    raster.planes[2]!.set([0.2, 0.5, 0.5, -0.1]);
    const { counts, clipped } = histogramOf(raster);
    expect([counts[0][0], counts[0][128], counts[0][255]]).toEqual([1, 1, 2]);
    expect(counts[1][128]).toBe(3);
    expect(clipped).toEqual({ dark: 0.5, bright: 0.5 });
  });

  it('have points at their ends, but for a thousandth of the pixels', () => {
    const raster = emptyRaster(64, 64, RGB);
    raster.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++) plane[i] = 0.2 + 0.1 * c + 0.4 * ((i % 64) / 63);
      plane[7] = 1;
      plane[9] = 0;
    });
    const patch = { x: 0, y: 0, width: 64, height: 64, raster };
    const zeros = new Float32Array(4096);
    const { black, white } = measureTonePoints([{ ...patch, luma: zeros, cb: zeros, cr: zeros }]);
    [0, 1, 2].forEach((c) => {
      expect(black[c]).toBeCloseTo(0.2 + 0.1 * c, 2);
      expect(white[c]).toBeCloseTo(0.6 + 0.1 * c, 2);
    });
  });
});
