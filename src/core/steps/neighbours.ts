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

/** The middle of the first `count` values, whose order changes. */
export function medianOf(values: Float32Array, count: number): number {
  const middle = count >> 1;
  const upper = select(values, count, middle);
  if (count % 2 === 1) return upper;
  // What lies before its place is no larger.
  let lower = values[0]!;
  for (let i = 1; i < middle; i++) if (values[i]! > lower) lower = values[i]!;
  return (lower + upper) / 2;
}

/**
 * The value that would stand at a place if the first `count` were sorted; afterwards it stands there, none before it larger
 * and none behind it smaller (Hoare, 1961, "Algorithm 65: find").
 */
function select(values: Float32Array, count: number, place: number): number {
  let [left, right] = [0, count - 1];
  while (left < right) {
    const pivot = values[(left + right) >> 1]!;
    let [i, j] = [left, right];
    while (i <= j) {
      while (values[i]! < pivot) i++;
      while (values[j]! > pivot) j--;
      if (i <= j) {
        const kept = values[i]!;
        values[i++] = values[j]!;
        values[j--] = kept;
      }
    }
    if (place <= j) right = j;
    else if (place >= i) left = i;
    else break;
  }
  return values[place]!;
}

/** 0 below `low`, 1 above `high`, a straight line between. */
export const linearStep = (value: number, low: number, high: number): number =>
  Math.min(1, Math.max(0, (value - low) / (high - low)));
