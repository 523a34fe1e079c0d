import { describe, expect, it } from 'vitest';
import { cut, emptyRaster, type Window } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { testPicture } from '../../testing';
import { buildFilter, type Axis } from './filter';
import { resample, resampleOnto } from './separable';
import { RGB } from '../../raster/form';

const size: Size = { width: 37, height: 23 };
const picture = testPicture(size, 9);
const input: Window = { region: whole(size), raster: picture };
const axis = (sourceSize: number, targetSize: number): Axis => ({
  method: 'lanczos3',
  sourceSize,
  origin: 0,
  span: sourceSize,
  targetSize,
});

/** Along the rows in double precision, then down the columns likewise. */
function reference(plane: Float32Array, to: Size, x: number, y: number): number {
  const across = buildFilter(axis(size.width, to.width), x, 1);
  const down = buildFilter(axis(size.height, to.height), y, 1);
  let sum = 0;
  for (let v = 0; v < down.taps; v++)
    for (let u = 0; u < across.taps; u++)
      sum +=
        down.weights[v]! *
        across.weights[u]! *
        plane[(down.first[0]! + v) * size.width + across.first[0]! + u]!;
  return sum;
}

describe.each([
  ['enlarging', { width: 90, height: 61 }],
  ['reducing', { width: 10, height: 7 }],
  ['one row and column', { width: 1, height: 1 }],
])('resampling, %s', (_, to) => {
  const horizontal = buildFilter(axis(size.width, to.width), 0, to.width);
  const vertical = buildFilter(axis(size.height, to.height), 0, to.height);

  it('weighs rows as the textbook does, whatever is left over of their last four', () => {
    const found = resample(input, horizontal, vertical, whole(to));
    found.planes.forEach((plane, c) => {
      for (let y = 0; y < to.height; y++)
        for (let x = 0; x < to.width; x++) {
          const expected = reference(picture.planes[c]!, to, x, y);
          expect(Math.abs(plane[y * to.width + x]! - expected)).toBeLessThan(2e-6);
        }
    });
  });

  it('adds to what is there, in its place and nowhere else', () => {
    const found = resample(input, horizontal, vertical, whole(to));
    const around = { x: -3, y: -2, width: to.width + 5, height: to.height + 6 };
    const raster = emptyRaster(around.width, around.height, RGB);
    raster.planes.forEach((plane) => plane.fill(0.25));
    const onto: Window = { region: around, raster };
    resampleOnto(onto, input, horizontal, vertical, whole(to));
    cut(onto, whole(to)).planes.forEach((plane, c) =>
      plane.forEach((value, i) => expect(value).toBe(Math.fround(0.25 + found.planes[c]![i]!))),
    );
    const rim = raster.planes[0]!.filter((_value, i) => {
      const x = (i % around.width) - 3;
      const y = Math.floor(i / around.width) - 2;
      return x < 0 || y < 0 || x >= to.width || y >= to.height;
    });
    expect(rim.length).toBe(around.width * around.height - to.width * to.height);
    expect(rim.every((value) => value === 0.25)).toBe(true);
  });
});
