import { expect, it } from 'vitest';
import { emptyRaster } from '../raster/raster';
import { memorySource, testPicture } from '../testing';
import { percentile, rowSteps, samplePicture } from './patches';
import { RGB } from '../raster/form';

it.each([
  [{ width: 2000, height: 1300 }, 18, 12],
  [{ width: 640, height: 130 }, 10, 2],
  [{ width: 40, height: 900 }, 1, 12],
  [{ width: 7, height: 5 }, 1, 1],
])('a picture of %o is sampled from edge to edge, %i by %i', async (size, columns, rows) => {
  const picture = testPicture(size);
  const sample = await samplePicture(memorySource(picture));
  expect(sample).toMatchObject({ columns, rows });
  expect(sample.patches).toHaveLength(columns * rows);
  const [first, last] = [sample.patches[0]!, sample.patches.at(-1)!];
  expect(first).toMatchObject({
    width: Math.min(64, size.width),
    height: Math.min(64, size.height),
  });
  if (columns > 1) expect([first.x, last.x + last.width]).toEqual([0, size.width]);
  if (rows > 1) expect([first.y, last.y + last.height]).toEqual([0, size.height]);
  const red = picture.planes[0]![last.y * size.width + last.x]!;
  expect(last.raster.planes[0]![0]).toBe(red);
});

it('rows and columns tell where they differ from the one before', async () => {
  const striped = emptyRaster(200, 300, RGB);
  striped.planes.forEach((plane) =>
    plane.forEach((_, i) => (plane[i] = (i % 200 >= 120 ? 0.2 : 0) + (i >= 200 * 131 ? 0.4 : 0))),
  );
  const source = memorySource(striped);
  const { all: down, strong } = await rowSteps(source);
  const { all: across } = (await samplePicture(source)).columnSteps;
  const where = (steps: Float64Array) => [...steps.keys()].filter((i) => steps[i]! > 1);
  expect(where(down)).toEqual([131]);
  expect(down[131]).toBeCloseTo(0.4 * 255, 3);
  expect(where(strong)).toEqual([131]);
  expect(strong[131]).toBeCloseTo(0.4 * 255 - 8, 3);
  expect(where(across)).toEqual([120]);
  expect(across[120]).toBeCloseTo(0.2 * 255, 3);
});

it('a percentile is a value that is there', () => {
  expect(percentile([5, 1, 3], 0)).toBe(1);
  expect(percentile([5, 1, 3], 0.5)).toBe(3);
  expect(percentile([5, 1, 3], 1)).toBe(5);
  expect(percentile([], 0.5)).toBe(0);
});
