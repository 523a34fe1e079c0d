import type { Window } from './raster';
import type { Region } from './region';

/** Channels that kernels weigh together, and floats that a pixel takes there: a one comes after them. */
export const TOGETHER = 3;
export const PACKED = TOGETHER + 1;

/**
 * Pixels of `region` of a window, row by row, as kernels take them that weigh whole pixels about a
 * place: TOGETHER channels, zeros where there are fewer, and a one.
 * @param first the channel to begin with; @param at where in `floats` the first pixel goes
 */
export function packPixels(
  { region: covered, raster }: Window,
  first: number,
  region: Region,
  floats: Float32Array,
  at: number,
): void {
  const { width, height } = region;
  const [a, b = null, c = null] = raster.planes.slice(first) as [Float32Array, ...Float32Array[]];
  for (let y = 0, to = at; y < height; y++) {
    let from = (region.y + y - covered.y) * covered.width + region.x - covered.x;
    for (const end = from + width; from < end; from++, to += PACKED) {
      floats[to] = a[from]!;
      floats[to + 1] = b ? b[from]! : 0;
      floats[to + 2] = c ? c[from]! : 0;
      floats[to + 3] = 1;
    }
  }
}

/**
 * Puts `width` pixels from `x`, `y` on into their place.
 * @param at where in `floats` their channels lie, one row after the other, from `first` on
 */
export function putRow(
  { region, raster }: Window,
  first: number,
  x: number,
  y: number,
  width: number,
  floats: Float32Array,
  at: number,
): void {
  const start = (y - region.y) * region.width + x - region.x;
  raster.planes.slice(first, first + TOGETHER).forEach((plane, channel) => {
    const from = at + channel * width;
    plane.set(floats.subarray(from, from + width), start);
  });
}

/**
 * A table that kernels read between its entries: pairs of a value and the way to the next one. What
 * follows the last entry is nothing.
 * @param fineness entries a unit
 */
export function pairsOf(
  value: (at: number) => number,
  length: number,
  fineness: number,
): Float32Array {
  const pairs = new Float32Array(2 * (Math.ceil(length * fineness) + 1));
  for (let i = 0; 2 * i < pairs.length - 2; i++) {
    pairs[2 * i] = value(i / fineness);
    pairs[2 * i + 1] = value((i + 1) / fineness) - value(i / fineness);
  }
  return pairs;
}
