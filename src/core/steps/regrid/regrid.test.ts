import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cut, emptyRaster } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { testPicture } from '../../testing';
import { regrid } from './regrid';
import { RGB } from '../../raster/form';

/** Pixels repeated as nearest neighbour does: half-pixel centres, rounded as `phase` says. */
function blownUp(small: ReturnType<typeof testPicture>, to: Size, phase: number) {
  const big = emptyRaster(to.width, to.height, RGB);
  big.planes.forEach((plane, channel) =>
    plane.forEach((_, i) => {
      const at = (pixel: number, cells: number, side: number) =>
        Math.min(cells - 1, Math.floor(((pixel + phase) * cells) / side));
      const x = at(i % to.width, small.width, to.width);
      const y = at(Math.floor(i / to.width), small.height, to.height);
      plane[i] = small.planes[channel]![y * small.width + x]!;
    }),
  );
  return big;
}

it('gives back the pixels of a part of a picture that was blown up', () => {
  const small = testPicture({ width: 9, height: 7 });
  const big = blownUp(small, { width: 36, height: 28 }, 0.5);
  // One pixel is cut off at the left, three at the top: of cells four wide the first of the rows is lost.
  const from = { width: 34, height: 25 };
  const part = cut(
    { region: whole({ width: 36, height: 28 }), raster: big },
    { x: 1, y: 3, ...from },
  );
  const to = { width: 9, height: 6 };
  const numbers = { ...to, covers: { x: -1, y: 1, width: 36, height: 24 } };
  const back = regrid.apply({ region: whole(from), raster: part }, numbers, whole(to), {
    from,
    to,
  });
  back.planes[0]!.forEach((value, i) => {
    const [x, y] = [i % 9, Math.floor(i / 9)];
    expect(value).toBeCloseTo(small.planes[0]![(y + 1) * 9 + x]!, 6);
  });
  const asked = regrid.inputRegion(numbers, { x: 8, y: 5, width: 1, height: 1 }, { from, to });
  expect(asked.x + asked.width).toBeLessThanOrEqual(from.width);
});

it('gives back every pixel of a picture that was blown up, by whole factors and others', () => {
  const small = testPicture({ width: 23, height: 17 });
  fc.assert(
    fc.property(
      fc.double({ min: 2, max: 9, noNaN: true }),
      fc.double({ min: 2, max: 9, noNaN: true }),
      fc.constantFrom(0.5, 0),
      (across, down, phase) => {
        const to = { width: Math.round(23 * across), height: Math.round(17 * down) };
        const big = blownUp(small, to, phase);
        const back = regrid.apply(
          { region: whole(to), raster: big },
          { width: 23, height: 17 },
          whole(small),
          { from: to, to: small },
        );
        back.planes[1]!.forEach((value, i) =>
          expect(Math.abs(value - small.planes[1]![i]!)).toBeLessThan(1e-6),
        );
      },
    ),
  );
});
