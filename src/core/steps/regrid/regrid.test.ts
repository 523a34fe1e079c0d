import fc from 'fast-check';
import { expect, it } from 'vitest';
import { emptyRaster } from '../../raster/raster';
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
