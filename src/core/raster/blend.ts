import { emptyRaster, type Raster, type Window } from './raster';
import type { Region } from './region';

/** Calls `each` for every row of `region` with where it begins in the result and in every window. */
function eachRow(
  windows: readonly Window[],
  region: Region,
  each: (start: number, at: number[]) => void,
): void {
  for (let y = 0; y < region.height; y++) {
    const at = windows.map(
      ({ region: covered }) => (region.y + y - covered.y) * covered.width + region.x - covered.x,
    );
    each(y * region.width, at);
  }
}

/**
 * out = before + share x limit x (after - before): share 0 is the picture as it was before.
 * @param share 0–1 @param limits strengths 0–1, one plane; 1 everywhere where there are none
 * @returns `region`, which all windows cover
 */
export function blend(
  before: Window,
  after: Window,
  share: number,
  limits: Window | undefined,
  region: Region,
): Raster {
  const result = emptyRaster(region.width, region.height, before.raster.form);
  const limit = limits?.raster.planes[0];
  eachRow([before, after, limits ?? before], region, (start, [from, to, on]) => {
    result.planes.forEach((plane, c) => {
      const was = before.raster.planes[c]!;
      const is = after.raster.planes[c]!;
      for (let x = 0; x < region.width; x++) {
        const part = limit ? share * limit[on! + x]! : share;
        const value = was[from! + x]!;
        plane[start + x] = value + part * (is[to! + x]! - value);
      }
    });
  });
  return result;
}

/** One plane times another, over `region`. */
export function product(one: Window, other: Window, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, one.raster.form);
  const [plane] = result.planes as [Float32Array];
  const [a, b] = [one.raster.planes[0]!, other.raster.planes[0]!];
  eachRow([one, other], region, (start, [from, to]) => {
    for (let x = 0; x < region.width; x++) plane[start + x] = a[from! + x]! * b[to! + x]!;
  });
  return result;
}

/** The least and the greatest value of a window's first plane over `region`. */
export function valueRange(window: Window, region: Region): { least: number; most: number } {
  const [plane] = window.raster.planes as [Float32Array];
  let least = Infinity;
  let most = -Infinity;
  eachRow([window], region, (_, [from]) => {
    for (let i = from!; i < from! + region.width; i++) {
      least = Math.min(least, plane[i]!);
      most = Math.max(most, plane[i]!);
    }
  });
  return { least, most };
}

/** Values cut off at 0 and 1. */
export function clampToOne(window: Window, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, window.raster.form);
  eachRow([window], region, (start, [from]) => {
    result.planes.forEach((plane, c) => {
      const values = window.raster.planes[c]!;
      for (let x = 0; x < region.width; x++) {
        plane[start + x] = Math.min(1, Math.max(0, values[from! + x]!));
      }
    });
  });
  return result;
}
