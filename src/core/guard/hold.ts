import { luminance } from '../raster/colour';
import { copyRun, emptyRaster, pixelsOver, type Raster, type Window } from '../raster/raster';
import { rangeRows } from '../raster/range';
import { grow, type Region, type Size } from '../raster/region';
import { strideOf } from '../raster/rows';
import type { OvershootLimit } from './guards';

/** What of the picture before a step the limit over `region` looks at. */
export const holdInput = ({ reach }: OvershootLimit, region: Region, size: Size): Region =>
  grow(region, reach, size);

/**
 * Holds every pixel of a step's result to the range of luminance that its neighbourhood had before the step, widened
 * by what the limit allows to the light and the dark side. R, G and B change alike, so that hues stay.
 * @param before the picture over at least `holdInput`; @param done the step's result over at least `region`
 */
export function held(
  before: Window,
  done: Window,
  limit: OvershootLimit,
  region: Region,
  size: Size,
): Raster {
  const covered = holdInput(limit, region, size);
  const luma = luminance(pixelsOver(before, covered));
  const line = strideOf(region.width) + 4;
  const range = rangeRows(luma, covered, region, limit.reach, 3 * line);
  const { memory, least, most, stride, own } = range;
  const { floats } = memory;
  const result = emptyRaster(region.width, region.height, done.raster.form);
  for (let y = 0; y < region.height; y++) {
    const from = (region.y + y - done.region.y) * done.region.width + region.x - done.region.x;
    for (let c = 0; c < 3; c++) {
      copyRun(done.raster.planes[c]!, from, floats, own + c * line, region.width);
    }
    memory.holdRow(
      own * 4,
      (own + line) * 4,
      (own + 2 * line) * 4,
      (least + y * stride) * 4,
      (most + y * stride) * 4,
      limit.dark,
      limit.light,
      region.width,
    );
    for (const [c, plane] of result.planes.entries()) {
      if (c < 3) copyRun(floats, own + c * line, plane, y * region.width, region.width);
      else copyRun(done.raster.planes[c]!, from, plane, y * region.width, region.width);
    }
  }
  return result;
}
