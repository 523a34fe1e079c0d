import { copyRun } from './raster';
import type { Region } from './region';
import { scratchMemory, strideOf, type ScratchMemory } from './rows';

/** Least and greatest values about every pixel of a region: rows in scratch memory, in floats. */
interface RangeRows {
  memory: ScratchMemory;
  /** where the rows of least and of greatest values begin */
  least: number;
  most: number;
  /** from one row to the next */
  stride: number;
  /** what the caller has for itself */
  own: number;
}

/**
 * The range of a plane in the square of `reach` pixels to every side about each pixel of a region: rows and columns
 * one after the other, each by doublings, so that the cost grows with the logarithm of the reach. Beyond the
 * picture there is nothing.
 * @param covered `region` grown by `reach` as far as the picture goes
 * @param own floats of scratch memory that the caller needs beside
 * @param rowOf writes a row of the plane over `covered` to a place of the scratch memory, in floats
 */
export function rangeRows(
  covered: Region,
  region: Region,
  reach: number,
  own: number,
  rowOf: (memory: ScratchMemory, at: number, own: number, y: number) => void,
): RangeRows {
  const rows = region.height + 2 * reach;
  const wide = region.width + 2 * reach;
  const stride = strideOf(wide) + 4;
  const least = 0;
  const most = rows * stride;
  const ownAt = 2 * rows * stride;
  const memory = scratchMemory((ownAt + own) * 4);
  const { floats } = memory;
  const left = covered.x - (region.x - reach);
  const right = left + covered.width;
  for (let y = 0; y < rows; y++) {
    // What lies beyond the picture repeats its rim, which is in the square already.
    const from = Math.min(Math.max(region.y - reach + y - covered.y, 0), covered.height - 1);
    const at = least + y * stride;
    rowOf(memory, at + left, ownAt, covered.y + from);
    floats.fill(floats[at + left]!, at, at + left);
    floats.fill(floats[at + right - 1]!, at + right, at + stride);
    floats.copyWithin(most + y * stride, at, at + stride);
    widen(2 * reach + 1, (step) => {
      memory.leastRow(at * 4, at * 4, (at + step) * 4, wide - step);
      const top = most + y * stride;
      memory.mostRow(top * 4, top * 4, (top + step) * 4, wide - step);
    });
  }
  widen(2 * reach + 1, (step) => {
    for (let y = 0; y + step < rows; y++) {
      const low = (least + y * stride) * 4;
      memory.leastRow(low, low, low + step * stride * 4, region.width);
      const high = (most + y * stride) * 4;
      memory.mostRow(high, high, high + step * stride * 4, region.width);
    }
  });
  return { memory, least, most, stride, own: ownAt };
}

/** Steps that make windows of one value windows of `length`: 1, 2, 4 …, and what is left. */
function widen(length: number, by: (step: number) => void): void {
  let have = 1;
  for (; 2 * have <= length; have *= 2) by(have);
  if (have < length) by(length - have);
}

/**
 * The range about every pixel of a region, as two planes of its own.
 * @param plane values over `covered`, which is as in `rangeRows`
 */
export function rangeAbout(
  plane: Float32Array,
  covered: Region,
  region: Region,
  reach: number,
): { least: Float32Array; most: Float32Array } {
  const { memory, least, most, stride } = rangeRows(covered, region, reach, 0, (into, at, _, y) =>
    copyRun(plane, (y - covered.y) * covered.width, into.floats, at, covered.width),
  );
  const taken = (from: number) => {
    const values = new Float32Array(region.width * region.height);
    for (let y = 0; y < region.height; y++) {
      copyRun(memory.floats, from + y * stride, values, y * region.width, region.width);
    }
    return values;
  };
  return { least: taken(least), most: taken(most) };
}
