import { describe, expect, it } from 'vitest';
import { STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { emptyRaster, type Raster } from '../raster/raster';
import { whole, type Size } from '../raster/region';
import { testPicture, withoutMargin } from '../testing';
import { cleanLearned, learnedInput, type Damage } from './cleaner';
import type { Network } from './network';
import { severityOf } from './planes';
import { RGBA } from '../raster/form';

const size: Size = { width: 50, height: 37 };
const given = testPicture(size, 1);
const estimate = testPicture(size, 2);
const damage: Damage = {
  severity: { luma: 0.6, colour: 0.4 },
  halved: true,
  noise: 10,
  blocks: { x: -3, y: 0 },
};

/** A network that adds what `value` says at every pixel, and keeps what it was given. */
function network(value: (plane: number, i: number) => number) {
  const seen: { planes: Float32Array; width: number; height: number }[] = [];
  const made: Network = {
    run: (planes, width, height, margin) => {
      seen.push({ planes, width, height });
      const count = width * height;
      const all = Float32Array.from({ length: 3 * count }, (_, i) =>
        value(Math.floor(i / count), i % count),
      );
      return withoutMargin(all, { width, height }, margin);
    },
  };
  return { made, seen };
}

const run = (net: Network, region = whole(size), told = damage, of: Raster = estimate) =>
  cleanLearned(
    net,
    { region: whole(size), raster: given },
    { region: whole(size), raster: of },
    region,
    size,
    told,
  );

describe('the learned cleaner', () => {
  it('gives the classical estimate where the network adds nothing', () => {
    expect(run(network(() => 0).made)).toEqual(estimate);
  });

  it('adds luminance alike to all channels, and colour as its differences say', () => {
    const brighter = run(network((plane) => (plane === 0 ? 0.1 : 0)).made);
    brighter.planes.forEach((plane, c) =>
      plane.forEach((value, i) => expect(value).toBeCloseTo(estimate.planes[c]![i]! + 0.1, 5)),
    );
    const bluer = run(network((plane) => (plane === 1 ? 0.1 : 0)).made);
    expect(bluer.planes[2]![5]).toBeCloseTo(estimate.planes[2]![5]! + 0.1772, 5);
    expect(bluer.planes[0]![5]).toBe(estimate.planes[0]![5]);
  });

  it('tells the network of the damage, and where blocks begin', () => {
    const { made, seen } = network(() => 0);
    run(made);
    const { planes, width, height } = seen[0]!;
    expect([width, height]).toEqual([90, 78]);
    const count = width * height;
    const at = (plane: number, x: number, y: number) =>
      planes[plane * count + (y + 20) * width + x + 20]!;
    expect([6, 7, 8, 9].map((plane) => at(plane, 10, 10))).toEqual(
      [0.6, 0.4, 1, 0.2].map((value) => Math.fround(value)),
    );
    // A block begins at -3: its first pixel is farthest from the middle, its fourth nearest.
    expect(at(10, 5, 0)).toBe(1);
    expect(at(10, 8, 0)).toBeCloseTo(0.5 / 3.5, 6);
    expect(at(11, 0, 8)).toBe(1);
    const level = given.planes.map((plane) => plane[3 * size.width + 7]!);
    expect(at(0, 7, 3)).toBeCloseTo(0.299 * level[0]! + 0.587 * level[1]! + 0.114 * level[2]!, 4);
    // Beyond the border the picture goes on as its mirror image.
    expect(at(0, -1, 3)).toBe(at(0, 0, 3));
    expect(at(0, 52, 3)).toBe(at(0, 47, 3));
  });

  it('tells of no blocks where there are none', () => {
    const { made, seen } = network(() => 0);
    run(made, whole(size), { ...damage, blocks: null });
    const { planes, width, height } = seen[0]!;
    expect(planes.subarray(10 * width * height).every((value) => value === 0)).toBe(true);
  });

  it('begins at even pixels, whatever it is asked for', () => {
    const { made, seen } = network(() => 0);
    const region = { x: 13, y: 7, width: 5, height: 6 };
    const result = run(made, region);
    expect([result.width, result.height]).toEqual([5, 6]);
    expect([seen[0]!.width % 2, seen[0]!.height % 2]).toEqual([0, 0]);
    expect(learnedInput(region, size)).toEqual({ x: 0, y: 0, width: 38, height: 33 });
    expect(result.planes[0]![0]).toBe(estimate.planes[0]![7 * size.width + 13]);
  });

  it('keeps alpha, and takes pictures of a few pixels', () => {
    const tiny = { width: 3, height: 2 };
    const raster = emptyRaster(3, 2, RGBA);
    raster.planes[3]!.fill(0.5);
    const window = { region: whole(tiny), raster };
    const result = cleanLearned(network(() => 0.2).made, window, window, whole(tiny), tiny, damage);
    expect(result.planes[3]).toEqual(raster.planes[3]);
    expect(result.planes[1]!.every(Number.isFinite)).toBe(true);
  });
});

describe('severity', () => {
  it('rises as quality falls, from nothing to all', () => {
    const of = (quality: number) => severityOf(tableAtQuality(STANDARD_LUMA, quality));
    const rising = [95, 80, 60, 30, 10].map(of);
    expect([...rising].sort((a, b) => a - b)).toEqual(rising);
    expect(of(100)).toBeLessThan(0.15);
    expect(severityOf(new Array<number>(64).fill(255))).toBe(1);
  });
});
