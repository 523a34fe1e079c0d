import { expect, it } from 'vitest';
import { emptyRaster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { mount, type MountNumbers } from './mount';
import { RGB, RGBA } from '../../raster/form';

/** One row of three pixels, 0.1 0.2 0.3, on a sheet of nine with three before and after. */
function row(beyond: Partial<MountNumbers>, form = RGB): number[] {
  const raster = emptyRaster(3, 1, form);
  raster.planes.forEach((plane) => plane.set([0.1, 0.2, 0.3]));
  if (form.alpha) raster.planes[3]!.fill(1);
  const numbers: MountNumbers = {
    ...{ width: 9, height: 1, x: 3, y: 0, colour: '#ff8000' },
    ...{ left: 'colour', right: 'colour', top: 'colour', bottom: 'colour' },
    ...beyond,
  };
  const to = { width: 9, height: 1 };
  const result = mount.apply({ region: whole(raster), raster }, numbers, whole(to), {
    from: raster,
    to,
  });
  const plane = result.planes.at(form.alpha ? -1 : 0)!;
  return [...plane].map((value) => Number(value.toFixed(3)));
}

it.each<[Partial<MountNumbers>, number[]]>([
  [{ left: 'mirror', right: 'mirror' }, [0.3, 0.2, 0.1, 0.1, 0.2, 0.3, 0.3, 0.2, 0.1]],
  [{ left: 'clamp', right: 'clamp' }, [0.1, 0.1, 0.1, 0.1, 0.2, 0.3, 0.3, 0.3, 0.3]],
  [{}, [1, 1, 1, 0.1, 0.2, 0.3, 1, 1, 1]],
  [{ left: 'clamp', x: 0 }, [0.1, 0.2, 0.3, 1, 1, 1, 1, 1, 1]],
])('beyond the picture as chosen: %j', (beyond, expected) => {
  expect(row(beyond)).toEqual(expected);
});

it('leaves margins transparent where transparency is kept', () => {
  expect(row({}, RGBA)).toEqual([0, 0, 0, 1, 1, 1, 0, 0, 0]);
});

it('asks for no more of the picture than its mirror image needs', () => {
  const numbers: MountNumbers = {
    ...{ width: 30, height: 10, x: 10, y: 0, colour: '#ffffff' },
    ...{ left: 'mirror', right: 'mirror', top: 'mirror', bottom: 'mirror' },
  };
  const grids = { from: { width: 10, height: 10 }, to: { width: 30, height: 10 } };
  expect(mount.inputRegion(numbers, { x: 6, y: 2, width: 2, height: 3 }, grids)).toEqual({
    ...{ x: 2, y: 2, width: 2, height: 3 },
  });
});
