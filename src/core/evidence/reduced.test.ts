import { describe, expect, it } from 'vitest';
import { cut } from '../raster/raster';
import { whole } from '../raster/region';
import { memorySource, testPicture } from '../testing';
import { reducedSource } from './reduced';

describe('a picture on a coarser grid', () => {
  it('has the means of what its pixels cover', async () => {
    const picture = testPicture({ width: 30, height: 20 });
    const reduced = await reducedSource(memorySource(picture), { width: 10, height: 5 }).read({
      ...{ x: 3, y: 2, width: 4, height: 3 },
    });
    let sum = 0;
    for (let y = 12; y < 16; y++)
      for (let x = 12; x < 15; x++) sum += picture.planes[1]![y * 30 + x]!;
    expect(reduced.planes[1]![1 * 4 + 1]).toBeCloseTo(sum / 12, 6);
  });

  it('keeps the mean where pixels are shared, and is the same however it is read', async () => {
    const picture = testPicture({ width: 53, height: 41 });
    const source = reducedSource(memorySource(picture), { width: 17, height: 12 });
    const all = await source.read(whole(source.size));
    const mean = (plane: Float32Array) => plane.reduce((sum, one) => sum + one, 0) / plane.length;
    for (let c = 0; c < 3; c++) {
      expect(mean(all.planes[c]!)).toBeCloseTo(mean(picture.planes[c]!), 5);
    }
    const part = { x: 5, y: 3, width: 9, height: 7 };
    const expected = cut({ region: whole(source.size), raster: all }, part);
    expect(await source.read(part)).toEqual(expected);
  });

  it('is the picture itself on its own grid, and none on a finer one', async () => {
    const picture = testPicture({ width: 12, height: 9 });
    const same = reducedSource(memorySource(picture), { width: 12, height: 9 });
    expect(await same.read(whole(same.size))).toEqual(picture);
    expect(() => reducedSource(memorySource(picture), { width: 13, height: 9 })).toThrow(/smaller/);
  });
});
