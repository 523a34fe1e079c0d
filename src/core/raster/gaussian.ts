import { expNegative } from './portable-math';
import { copyRun } from './raster';
import { grow, type Region, type Size } from './region';
import { scratchLayout, scratchMemory, SPARE, strideOf, type ScratchMemory } from './rows';

/** Pixels around a pixel that a Gaussian of this radius looks at; beyond 3 radii it is below 1 %. */
export const gaussianReach = (radius: number): number => Math.ceil(3 * radius);

/** Weights at distances -reach to reach, not normalised. `radius` is the standard deviation in pixels. */
export function gaussianWeights(radius: number, reach = gaussianReach(radius)): Float64Array {
  return Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    expNegative(-((i - reach) * (i - reach)) / (2 * radius * radius)),
  );
}

/** Rows that are handed on: of the plane itself, and of its means; byte pointers into the memory. */
export type EachRow = (
  memory: ScratchMemory,
  row: { plane: number; mean: number; own: number },
  y: number,
) => void;

/** Weights along either axis: of the middle, of what lies one pixel off, and so on; whatever they add up to. */
export interface Weights {
  half: Float64Array;
  /** that what lies beyond the picture counts as zero; it is left out of the sum of weights unless this is said */
  beyond?: 'zero';
}

/**
 * Means of one plane about each pixel of a region, separable and symmetric.
 * @param plane values over `covered`, which holds `region` and its reach as far as `size` allows
 * @param own floats of scratch memory that `each` has for itself
 * @param each is given a row of the plane and of the means, which it leaves as they are
 */
export function meanRows(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  { half, beyond }: Weights,
  own: number,
  each: EachRow,
): void {
  const reach = half.length - 1;
  const all = half.reduce((sum, weight, k) => sum + (k === 0 ? 1 : 2) * weight, 0);
  const weights = half.map((weight) => weight / all);
  const { x: left, width: wide } = grow({ ...region, y: 0, height: 1 }, reach, size);

  // In floats: as many rows of the plane as are looked at, and those to work in.
  const count = 2 * reach + 1;
  const allocate = scratchLayout();
  const stride = strideOf(region.width + 2 * reach) + SPARE;
  const rows = allocate(count * stride);
  const [zeros, line, across, totals] = [
    allocate(stride),
    allocate(stride),
    allocate(stride),
    allocate(stride),
  ];
  const [taps, down, along] = [allocate(reach + 1), allocate(count), allocate(count)];
  const ownAt = allocate(own);
  const memory = scratchMemory(allocate(0) * 4);
  const { floats, ints } = memory;
  floats.fill(0, zeros, taps);
  floats.set(weights, taps);
  const sums = line + left - (region.x - reach);
  for (let k = 0; k < count; k++) ints[along + k] = (line + k) * 4;
  const onPicture = (start: number, n: number, length: number): Float32Array =>
    beyond === 'zero' ? new Float32Array(n).fill(1) : totalsOf(weights, start, n, length);
  const totalsAcross = onPicture(region.x, region.width, size.width);
  const totalsDown = onPicture(region.y, region.height, size.height);
  floats.set(totalsAcross, totals);
  const rimmed = totalsAcross[0] !== 1 || totalsAcross[region.width - 1] !== 1;

  const rowAt = (y: number): number =>
    y < 0 || y >= size.height ? zeros : rows + (y % count) * stride;
  const take = (y: number): void => {
    if (y < 0 || y >= size.height) return;
    const start = (y - covered.y) * covered.width + left - covered.x;
    copyRun(plane, start, floats, rowAt(y), wide);
  };
  for (let y = region.y - reach; y < region.y + reach; y++) take(y);
  for (let y = 0; y < region.height; y++) {
    const middle = region.y + y;
    take(middle + reach);
    for (let k = 0; k < count; k++) ints[down + k] = rowAt(middle + k - reach) * 4;
    memory.symmetricRow(sums * 4, down * 4, taps * 4, reach, wide);
    if (totalsDown[y] !== 1) memory.scaleRow(sums * 4, sums * 4, 1 / totalsDown[y]!, wide);
    // Whole vectors wrote beyond what lies on the picture.
    floats.fill(0, sums + wide, sums + strideOf(wide));
    memory.symmetricRow(across * 4, along * 4, taps * 4, reach, region.width);
    if (rimmed) memory.divideRow(across * 4, across * 4, totals * 4, region.width);
    const row = { plane: (rowAt(middle) + region.x - left) * 4, mean: across * 4, own: ownAt * 4 };
    each(memory, row, y);
  }
}

/** Sums of those weights that fall on the picture about positions of an axis; 1 where all do. */
function totalsOf(half: Float64Array, start: number, count: number, length: number): Float32Array {
  const reach = half.length - 1;
  const totals = new Float32Array(count).fill(1);
  const total = (at: number): number => {
    let sum = half[0]!;
    for (let k = 1; k <= Math.min(reach, at); k++) sum += half[k]!;
    for (let k = 1; k <= Math.min(reach, length - 1 - at); k++) sum += half[k]!;
    return sum;
  };
  for (let at = start; at < Math.min(reach, start + count); at++) totals[at - start] = total(at);
  const last = Math.max(start, reach, length - reach);
  for (let at = last; at < start + count; at++) totals[at - start] = total(at);
  return totals;
}

/** The same means as a plane of their own. */
export function means(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  weights: Weights,
): Float32Array {
  const result = new Float32Array(region.width * region.height);
  meanRows(plane, covered, region, size, weights, 0, ({ floats }, { mean }, y) =>
    copyRun(floats, mean / 4, result, y * region.width, region.width),
  );
  return result;
}

/** The weights of a Gaussian. @param radius standard deviation in pixels */
export const gaussian = (radius: number, reach = gaussianReach(radius)): Weights => ({
  half: gaussianWeights(radius, reach).subarray(reach),
});

/** Gaussian blur of one plane, as `means` are. @param radius standard deviation in pixels */
export const blur = (
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  radius: number,
): Float32Array => means(plane, covered, region, size, gaussian(radius));
