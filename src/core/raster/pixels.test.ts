import { describe, expect, it } from 'vitest';
import { testPicture } from '../testing';
import { packPixels, pairsOf, putRow } from './pixels';
import { emptyRaster, type Window } from './raster';
import { RGBA } from './form';

const window: Window = {
  region: { x: 5, y: 3, width: 7, height: 6 },
  raster: testPicture({ width: 7, height: 6 }, 2),
};
const region = { x: 7, y: 4, width: 4, height: 3 };
const valueAt = (channel: number, x: number, y: number) =>
  window.raster.planes[channel]![(y - 3) * 7 + x - 5];

describe('packed pixels', () => {
  it('hold three channels and a one', () => {
    const floats = new Float32Array(2 + 4 * 12).fill(9);
    packPixels(window, 0, region, floats, 2);
    expect([...floats.subarray(0, 2)]).toEqual([9, 9]);
    for (let i = 0; i < 12; i++) {
      const [x, y] = [region.x + (i % 4), region.y + Math.floor(i / 4)];
      const expected = [0, 1, 2].map((channel) => valueAt(channel, x, y));
      expect([...floats.subarray(2 + 4 * i, 6 + 4 * i)]).toEqual([...expected, 1]);
    }
  });

  it('hold zeros for channels that there are not', () => {
    const floats = new Float32Array(4 * 12).fill(9);
    packPixels(window, 1, region, floats, 0);
    expect([...floats.subarray(0, 4)]).toEqual([valueAt(1, 7, 4), valueAt(2, 7, 4), 0, 1]);
    packPixels(window, 2, region, floats, 0);
    expect([...floats.subarray(44, 48)]).toEqual([valueAt(2, 10, 6), 0, 0, 1]);
  });

  it('come back a row at a time, into their place and nowhere else', () => {
    const result: Window = {
      region: { x: 1, y: 1, width: 5, height: 4 },
      raster: emptyRaster(5, 4, RGBA),
    };
    const rows = Float32Array.from([0, 0, 1, 2, 3, 4, 5, 6]);
    putRow(result, 1, 3, 2, 2, rows, 2);
    const [first, ...others] = result.raster.planes;
    expect(first!.every((value) => value === 0)).toBe(true);
    others.forEach((plane, channel) => {
      const expected = new Float32Array(20);
      expected.set([2 * channel + 1, 2 * channel + 2], 5 + 2);
      expect(plane).toEqual(expected);
    });
  });
});

describe('a table of pairs', () => {
  const pairs = pairsOf((at) => at * at, 3, 4);

  it('leads from every entry to the next', () => {
    expect(pairs.length).toBe(2 * 13);
    for (let i = 0; i < 12; i++) {
      expect(pairs[2 * i]).toBe((i / 4) ** 2);
      expect(pairs[2 * i]! + pairs[2 * i + 1]!).toBe(((i + 1) / 4) ** 2);
    }
  });

  it('ends with nothing', () => {
    expect([...pairs.subarray(24)]).toEqual([0, 0]);
  });
});
