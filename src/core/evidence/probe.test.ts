import { describe, expect, it } from 'vitest';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import { memorySource } from '../testing';
import { probeLine } from './probe';
import { riseOf } from './profile';
import { spectrumOf } from './spectrum';

/** A picture whose colours follow from the place of each pixel's middle. */
function painted(
  width: number,
  height: number,
  of: (x: number, y: number) => readonly [number, number, number],
): Raster {
  const raster = emptyRaster(width, height, RGB);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      of(x + 0.5, y + 0.5).forEach((value, c) => (raster.planes[c]![i] = value));
  return raster;
}

describe('a probe', () => {
  const slope = painted(300, 200, (x, y) => [x / 300, y / 200, 0.25]);

  it('reads what a plane holds along any line, however slanted', async () => {
    const from = { x: 20.5, y: 30.25 };
    const to = { x: 260.25, y: 170.5 };
    const { red, green, blue, step } = await probeLine(memorySource(slope), from, to);
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    expect(step * (red.length - 1)).toBeCloseTo(length, 6);
    expect(step).toBeCloseTo(1, 2);
    red.forEach((value, i) => {
      const share = i / (red.length - 1);
      expect(value).toBeCloseTo((255 * (from.x + share * (to.x - from.x))) / 300, 2);
      expect(green[i]).toBeCloseTo((255 * (from.y + share * (to.y - from.y))) / 200, 2);
      expect(blue[i]).toBeCloseTo(63.75, 2);
    });
  });

  it('gives the pixels themselves along a row, whichever way round', async () => {
    const source = memorySource(painted(64, 8, (x) => [Math.floor(x) % 2, 0, 0]));
    const there = await probeLine(source, { x: 4.5, y: 2.5 }, { x: 40.5, y: 2.5 });
    expect([...there.red.slice(0, 4)]).toEqual([0, 255, 0, 255]);
    const back = await probeLine(source, { x: 40.5, y: 2.5 }, { x: 4.5, y: 2.5 });
    expect([...back.red]).toEqual([...there.red].reverse());
  });

  it('stays on the picture where the line reaches beyond it', async () => {
    const source = memorySource(slope);
    const { red } = await probeLine(source, { x: -40, y: 5 }, { x: 340, y: 5 });
    expect(red[0]).toBeCloseTo((255 * 0.5) / 300, 2);
    expect(red.at(-1)).toBeCloseTo((255 * 299.5) / 300, 2);
  });

  it('leaves pixels out of a very long line, and refuses one of no length', async () => {
    const source = memorySource(painted(5000, 1, (x) => [x / 5000, 0, 0]));
    const { red, step } = await probeLine(source, { x: 0.5, y: 0.5 }, { x: 4999.5, y: 0.5 });
    expect(red).toHaveLength(2048);
    expect(step * 2047).toBeCloseTo(4999, 3);
    await expect(probeLine(source, { x: 3, y: 0 }, { x: 3, y: 0 })).rejects.toThrow(RangeError);
    await expect(probeLine(source, { x: NaN, y: 0 }, { x: 3, y: 0 })).rejects.toThrow(RangeError);
  });

  it('tells how far an edge rises', async () => {
    // A straight climb over ten pixels rises from 10 to 90 % in eight.
    const grey = (value: number) => [value, value, value] as const;
    const ramp = painted(80, 8, (x) => grey(0.2 + 0.6 * Math.min(1, Math.max(0, (x - 35) / 10))));
    const { luma } = await probeLine(memorySource(ramp), { x: 4.5, y: 4.5 }, { x: 75.5, y: 4.5 });
    const rise = riseOf(luma, 10)!;
    expect(rise.width).toBeCloseTo(8, 0);
    expect(rise.climb).toBeCloseTo(153, 0);
    expect(rise.overshoot.light).toBeCloseTo(0, 3);
  });
});

describe('a spectrum', () => {
  it('has a wave where its scale is, as strong as it is', () => {
    const wave = painted(512, 300, (x) => {
      const value = 0.5 + 0.1 * Math.sin((2 * Math.PI * x) / 8);
      return [value, value, value];
    });
    const found = spectrumOf(wave)!;
    // One cycle in eight pixels is 32 in 256.
    const strongest = found.indexOf(Math.max(...found));
    expect(strongest).toBe(31);
    const power = found.reduce((sum, one) => sum + one * one, 0);
    // Rows carry it, with the power of a sine; columns carry nothing.
    const rows = (300 / 4) * 3;
    const columns = (512 / 4) * 1;
    const mean = ((0.1 * 255) ** 2 / 2) * (rows / (rows + columns));
    expect(power / mean).toBeCloseTo(1, 1);
    expect(found[100]!).toBeLessThan(0.01 * found[31]!);
  });

  it('is nothing of a plain picture, and none of one too small for a line', () => {
    const plain = spectrumOf(painted(256, 20, () => [0.3, 0.3, 0.3]))!;
    expect(Math.max(...plain)).toBeLessThan(1e-3);
    expect(spectrumOf(painted(255, 100, () => [0, 0, 0]))).toBeNull();
  });
});
