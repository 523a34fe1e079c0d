import type { Window } from '../raster/raster';
import type { Region, Size } from '../raster/region';

/**
 * Calls `each` for every pixel of `region` with where it stands in the window's planes and where in
 * a result over `region`.
 */
export function eachPixel(
  { region: covered }: Window,
  region: Region,
  each: (at: number, i: number, x: number, y: number) => void,
): void {
  for (let v = 0, i = 0; v < region.height; v++) {
    let at = (region.y + v - covered.y) * covered.width + region.x - covered.x;
    for (let u = 0; u < region.width; u++, i++, at++) each(at, i, region.x + u, region.y + v);
  }
}

/** Runs of a window's columns and rows within `radius` of a pixel that lie on the picture. */
export function neighbourhood(
  x: number,
  y: number,
  radius: number,
  size: Size,
): { left: number; top: number; right: number; bottom: number } {
  return {
    left: Math.max(0, x - radius),
    top: Math.max(0, y - radius),
    right: Math.min(size.width - 1, x + radius),
    bottom: Math.min(size.height - 1, y + radius),
  };
}

/** The middle of the first `count` values, which are put in order up to it. */
export function medianOf(values: Float32Array, count: number): number {
  const part = values.subarray(0, count);
  part.sort();
  const middle = count >> 1;
  return count % 2 === 1 ? part[middle]! : (part[middle - 1]! + part[middle]!) / 2;
}

/** 0 below `low`, 1 above `high`, a straight line between. */
export const linearStep = (value: number, low: number, high: number): number =>
  Math.min(1, Math.max(0, (value - low) / (high - low)));
