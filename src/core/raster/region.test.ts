import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cut, emptyRaster, paste } from './raster';
import { alignOutward, cells, clip, contains, grow, strips, whole, evenCell } from './region';
import { STRENGTH } from './form';

const size = { width: 100, height: 60 };
const region = fc.record({
  x: fc.integer({ min: 0, max: 90 }),
  y: fc.integer({ min: 0, max: 50 }),
  width: fc.integer({ min: 1, max: 10 }),
  height: fc.integer({ min: 1, max: 10 }),
});

describe('regions', () => {
  it('grows without leaving the grid', () => {
    expect(grow({ x: 1, y: 2, width: 5, height: 5 }, 3, size)).toEqual({
      x: 0,
      y: 0,
      width: 9,
      height: 10,
    });
    expect(grow({ x: 95, y: 55, width: 5, height: 5 }, 3, size)).toEqual({
      x: 92,
      y: 52,
      width: 8,
      height: 8,
    });
  });

  it('clips what lies outside to nothing', () => {
    expect(clip({ x: 200, y: 0, width: 5, height: 5 }, size)).toMatchObject({ width: 0 });
    expect(clip({ x: -20, y: -20, width: 5, height: 5 }, size)).toMatchObject({
      width: 0,
      height: 0,
    });
  });

  it('aligns outward to an absolute grid', () => {
    fc.assert(
      fc.property(region, (part) => {
        const aligned = alignOutward(part, 8, size);
        expect(contains(aligned, part)).toBe(true);
        expect(aligned.x % 8).toBe(0);
        expect(aligned.y % 8).toBe(0);
      }),
    );
  });

  it('cuts a grid into strips and cells that cover it once', () => {
    for (const parts of [strips(size, 7), cells(whole(size), 16, size)]) {
      const seen = new Uint8Array(size.width * size.height);
      for (const part of parts)
        for (let y = part.y; y < part.y + part.height; y++)
          for (let x = part.x; x < part.x + part.width; x++) seen[y * size.width + x]!++;
      expect(seen.every((count) => count === 1)).toBe(true);
    }
  });
});

describe('cut and paste', () => {
  it('gives back the pixels of the place asked for', () => {
    const raster = emptyRaster(size.width, size.height, STRENGTH);
    raster.planes[0]!.forEach((_, i, plane) => (plane[i] = i));
    fc.assert(
      fc.property(region, (part) => {
        const piece = cut({ region: whole(size), raster }, part);
        expect(piece.planes[0]![0]).toBe(part.y * size.width + part.x);
        const back = emptyRaster(size.width, size.height, STRENGTH);
        paste({ region: part, raster: piece }, { region: whole(size), raster: back });
        const last = (part.y + part.height - 1) * size.width + part.x + part.width - 1;
        expect(back.planes[0]![last]).toBe(last);
      }),
    );
    expect(() =>
      cut(
        { region: { x: 0, y: 0, width: 4, height: 4 }, raster: emptyRaster(4, 4, STRENGTH) },
        whole(size),
      ),
    ).toThrow(RangeError);
  });
});

describe('cells that share a grid out evenly', () => {
  it.each([
    [
      { width: 2400, height: 3600 },
      { width: 1200, height: 1800 },
    ],
    [
      { width: 1792, height: 40 },
      { width: 1792, height: 40 },
    ],
    [
      { width: 1801, height: 5 },
      { width: 904, height: 8 },
    ],
  ])('of %o', (size, expected) => {
    expect(evenCell(size, 1800, 8)).toEqual(expected);
  });

  it('are never larger than they may be, and as few as that takes', () => {
    for (let side = 1; side < 6000; side += 37) {
      const cell = evenCell({ width: side, height: 1 }, 1792, 8);
      expect(cell.width).toBeLessThanOrEqual(1792);
      const count = cells({ x: 0, y: 0, width: side, height: 1 }, cell, { width: side, height: 1 });
      expect(count).toHaveLength(Math.ceil(side / 1792));
    }
  });
});
