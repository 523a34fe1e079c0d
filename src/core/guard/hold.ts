import { copyRun, emptyRaster, type Raster, type Window } from '../raster/raster';
import { rangeRows } from '../raster/range';
import { grow, type Region, type Size } from '../raster/region';
import { strideOf } from '../raster/rows';
import type { OvershootLimit } from './guards';

/** What of the picture before a step the limit over `region` looks at. */
export const holdInput = ({ reach }: OvershootLimit, region: Region, size: Size): Region =>
  grow(region, reach, size);

/** How much of a step's result is wanted: a share, 0–1, and strengths over the picture, 1 where there are none. */
export interface Wanted {
  share: number;
  limits: Window | undefined;
}

/**
 * Holds every pixel of a step's result to the range of luminance that its neighbourhood had before the step, widened
 * by what the limit allows to the light and the dark side, and lays it over the picture as strongly as it is wanted.
 * R, G and B change alike, so that hues stay.
 * @param before the picture over at least `holdInput`; @param done the step's result over at least `region`
 */
export function held(
  before: Window,
  done: Window,
  limit: OvershootLimit,
  { share, limits }: Wanted,
  region: Region,
  size: Size,
): Raster {
  const covered = holdInput(limit, region, size);
  const { width } = region;
  const line = strideOf(covered.width) + 4;
  const startIn = ({ region: own }: Window, x: number, y: number): number =>
    (y - own.y) * own.width + x - own.x;
  const range = rangeRows(covered, region, limit.reach, 7 * line, (memory, at, own, y) => {
    const from = startIn(before, covered.x, y);
    for (let c = 0; c < 3; c++) {
      const row = own + c * line;
      copyRun(before.raster.planes[c]!, from, memory.floats, row, covered.width);
    }
    const [r, g, b] = [own * 4, (own + line) * 4, (own + 2 * line) * 4] as const;
    memory.luminanceRow(at * 4, r, g, b, covered.width);
  });
  const { memory, least, most, stride, own } = range;
  const { floats } = memory;
  // In floats: the result's colours, those before, strengths.
  const row = (k: number) => own + k * line;
  const whole = !limits && share === 1;
  if (!limits) floats.fill(1, row(6), row(6) + width);
  const result = emptyRaster(width, region.height, done.raster.form);
  for (let y = 0; y < region.height; y++) {
    const is = startIn(done, region.x, region.y + y);
    const was = startIn(before, region.x, region.y + y);
    for (let c = 0; c < 3; c++) copyRun(done.raster.planes[c]!, is, floats, row(c), width);
    const [low, high] = [(least + y * stride) * 4, (most + y * stride) * 4];
    const [r, g, b] = [row(0) * 4, row(1) * 4, row(2) * 4] as const;
    memory.holdRow(r, g, b, low, high, limit.dark, limit.light, width);
    if (limits) {
      const from = startIn(limits, region.x, region.y + y);
      copyRun(limits.raster.planes[0]!, from, floats, row(6), width);
    }
    for (const [c, plane] of result.planes.entries()) {
      // Transparency is nothing that sharpens.
      if (c === 3) copyRun(done.raster.planes[c]!, is, plane, y * width, width);
      else {
        if (!whole) {
          copyRun(before.raster.planes[c]!, was, floats, row(3 + c), width);
          memory.mixRow(row(c) * 4, row(3 + c) * 4, row(6) * 4, share, width);
        }
        copyRun(floats, row(c), plane, y * width, width);
      }
    }
  }
  return result;
}
