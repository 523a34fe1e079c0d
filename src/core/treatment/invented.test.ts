import { describe, expect, it } from 'vitest';
import { emptyRaster } from '../raster/raster';
import { memorySource, testPicture } from '../testing';
import { expectedOff, inventedDetail, INVENTED_CELL } from './invented';

const large = { width: 1560, height: 280 };
const plain = testPicture(large);
const before = memorySource(plain);

/** The plain enlargement with stripes added to a part of it. */
function striped(...places: [x: number, y: number, by?: number][]) {
  const raster = emptyRaster(large.width, large.height, 3);
  raster.planes.forEach((plane, c) => {
    plane.set(plain.planes[c]!);
    for (const [x, y, by = 0.03] of places)
      for (let v = y; v < y + 40; v++)
        for (let u = x; u < x + 40; u++) plane[v * large.width + u]! += u % 2 ? by : -by;
  });
  return memorySource(raster);
}

describe('invented detail', () => {
  it('is none where the network added nothing', async () => {
    const raster = { ...plain };
    const found = (await inventedDetail(before, memorySource(raster)))!;
    expect([found.columns, found.rows]).toEqual([49, 9]);
    for (const level of found.levels) expect(level).toBeCloseTo(expectedOff(0), 3);
  });

  it('is found where there is some, the worst place first', async () => {
    const found = (await inventedDetail(before, striped([400, 120])))!;
    const [worst] = found.worst;
    expect(Math.abs(worst!.x - 105)).toBeLessThan(INVENTED_CELL);
    expect(Math.abs(worst!.y - 35)).toBeLessThan(INVENTED_CELL);
    expect(worst!.levels).toBeGreaterThan(10);
    expect(found.levels[0]).toBeLessThan(1);
    const rest = found.worst.slice(1);
    for (const { x, y } of rest)
      expect(Math.max(Math.abs(x - worst!.x), Math.abs(y - worst!.y))).toBeGreaterThanOrEqual(64);
  });

  it('goes by what was added where no more can be expected of it', async () => {
    const found = (await inventedDetail(before, striped([200, 40, 0.05], [900, 200, 0.1])))!;
    const [worst, second] = found.worst;
    expect(worst!.levels).toBe(second!.levels);
    expect(Math.abs(worst!.x - 230)).toBeLessThan(INVENTED_CELL);
    expect(Math.abs(second!.x - 55)).toBeLessThan(INVENTED_CELL);
  });

  it('tells how far it is, and ends when it is told to', async () => {
    const shares: number[] = [];
    const ended = await inventedDetail(before, striped([0, 0]), (share) => {
      shares.push(share);
      return shares.length < 1;
    });
    expect(ended).toBeNull();
    expect(shares).toEqual([0.5]);
  });

  it('is more the more was added, up to what is never surpassed', () => {
    const levels = [0, 0.2, 0.9, 2, 4, 8, 30].map(expectedOff);
    expect([...levels].sort((a, b) => a - b)).toEqual(levels);
    expect(expectedOff(1.5)).toBe(8.7);
    expect(expectedOff(100)).toBe(expectedOff(30));
  });
});
