import { LIGHTNESS, type Form } from '../raster/form';
import { rangeAbout, rangeRows } from '../raster/range';
import {
  copyRun,
  cutPlane,
  emptyRaster,
  rowStart,
  type Raster,
  type Window,
} from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import { strideOf } from '../raster/rows';
import type { OvershootLimit } from './guards';

/** What of the picture before a step the limit over `region` looks at. */
export const holdInput = ({ reach }: OvershootLimit, region: Region, size: Size): Region =>
  grow(region, reach, size);

/** The least and the greatest luminance about every pixel. */
export const RANGE: Form = { colours: 2, alpha: false, space: 'lightness' };

/** Both over `region`. @param luma over at least `region` grown by `reach` as far as the picture goes */
export function rangeOf(luma: Window, region: Region, size: Size, reach: number): Raster {
  const [plane] = luma.raster.planes as [Float32Array];
  const { least, most } = rangeAbout(plane, luma.region, region, size, reach);
  return { width: region.width, height: region.height, form: RANGE, planes: [least, most] };
}

/**
 * Holds luminance to a range, widened by what the limit allows to the light and the dark side: an enlargement to what
 * lies about it on the original.
 * @param luma,range both over at least `region`
 */
export function heldTo(
  luma: Window,
  range: Window,
  { light, dark }: OvershootLimit,
  region: Region,
): Raster {
  const { width, height } = region;
  const plane = cutPlane(luma.raster.planes[0]!, luma.region, region);
  const [least, most] = range.raster.planes as [Float32Array, Float32Array];
  for (let y = 0, i = 0; y < height; y++) {
    let at = rowStart(range.region, region, y);
    for (let x = 0; x < width; x++, i++, at++) {
      const value = plane[i]!;
      const low = least[at]! - dark;
      const high = most[at]! + light;
      if (value < low) plane[i] = low;
      else if (value > high) plane[i] = high;
    }
  }
  return { width, height, form: LIGHTNESS, planes: [plane] };
}

/** How much of a step's result is wanted: a share, 0–1, and strengths over the picture, 1 where there are none. */
export interface Wanted {
  share: number;
  limits: Window | undefined;
}

/**
 * Holds every pixel of a step's luminance to the range that its neighbourhood had before the step, widened by what the
 * limit allows to the light and the dark side, and lays it over what there was as strongly as it is wanted.
 * @param before over at least `holdInput`; @param done the step's result over at least `region`
 */
export function held(
  before: Window,
  done: Window,
  { reach, light, dark }: OvershootLimit,
  { share, limits }: Wanted,
  region: Region,
  size: Size,
): Raster {
  const { width, height } = region;
  const result = emptyRaster(width, height, LIGHTNESS);
  const [out] = result.planes as [Float32Array];
  const [was] = before.raster.planes as [Float32Array];
  const line = strideOf(width);
  const take = ({ floats }: { floats: Float32Array }, one: Window, to: number, y: number): void =>
    copyRun(one.raster.planes[0]!, rowStart(one.region, region, y), floats, to, width);
  rangeRows(
    was,
    before.region,
    region,
    size,
    reach,
    3 * line,
    (memory, { least, most, own }, y) => {
      const at = own / 4;
      take(memory, done, at, y);
      take(memory, before, at + line, y);
      if (limits) take(memory, limits, at + 2 * line, y);
      else memory.floats.fill(1, at + 2 * line, at + 3 * line);
      const [own1, own2] = [own + 4 * line, own + 8 * line];
      memory.holdRow(own, own1, own2, least, most, dark, light, share, width);
      copyRun(memory.floats, at, out, y * width, width);
    },
  );
  return result;
}
