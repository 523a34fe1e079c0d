import { grow, type Region, type Size } from '../../raster/region';
import { expNegative } from '../../raster/portable-math';

/** Pixels around a pixel that a Gaussian of this radius looks at; beyond 3 radii it is below 1 %. */
export const gaussianReach = (radius: number): number => Math.ceil(3 * radius);

/** Weights at distances -reach to reach, not normalised. `radius` is the standard deviation in pixels. */
export function gaussianWeights(radius: number): Float64Array {
  const reach = gaussianReach(radius);
  return Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    expNegative(-((i - reach) * (i - reach)) / (2 * radius * radius)),
  );
}

/**
 * Gaussian blur of one plane, separable; at the picture's borders the weights that remain are
 * renormalised: what lies outside counts as zero, and is left out of the sum of weights.
 * @param plane values over `covered`, which holds `region` and its reach as far as `size` allows
 * @returns the blurred plane over `region`
 */
export function blur(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  radius: number,
): Float32Array {
  const weights = gaussianWeights(radius);
  const reach = (weights.length - 1) / 2;
  const wide = grow(region, reach, size);
  const half = weights.subarray(reach);
  const outside = new Float32Array(wide.width);
  const row = (y: number): Float32Array => {
    if (y < 0 || y >= size.height) return outside;
    const start = (y - covered.y) * covered.width + wide.x - covered.x;
    return plane.subarray(start, start + wide.width);
  };
  const sums = new Float64Array(wide.width);
  const line = new Float32Array(region.width + 2 * reach);
  const inLine = wide.x - (region.x - reach);
  const across = new Float64Array(region.width);
  const acrossTotals = Float64Array.from({ length: region.width }, (_, x) =>
    totalWeight(weights, region.x + x, reach, size.width),
  );
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    const middle = region.y + y;
    convolve((k) => row(middle + k), half, sums);
    const downTotal = totalWeight(weights, middle, reach, size.height);
    for (let x = 0; x < wide.width; x++) line[inLine + x] = sums[x]! / downTotal;
    convolve((k) => line.subarray(reach + k, reach + k + region.width), half, across);
    const out = y * region.width;
    for (let x = 0; x < region.width; x++) result[out + x] = across[x]! / acrossTotals[x]!;
  }
  return result;
}

/** Sum of the weights that fall on the picture about one position of an axis. */
function totalWeight(weights: Float64Array, position: number, reach: number, size: number): number {
  let total = 0;
  for (let k = -reach; k <= reach; k++) {
    if (position + k >= 0 && position + k < size) total += weights[reach + k]!;
  }
  return total;
}

/**
 * out[x] = sum over k of half[|k|] x shifted(k)[x]: whole lines at a time, pairs of the symmetric
 * kernel together, two pairs a pass.
 */
function convolve(
  shifted: (k: number) => Float32Array,
  half: Float64Array,
  out: Float64Array,
): void {
  const n = out.length;
  const middle = shifted(0);
  const first = half[0]!;
  for (let x = 0; x < n; x++) out[x] = first * middle[x]!;
  for (let k = 1; k < half.length; k += 2) {
    const a = shifted(-k);
    const b = shifted(k);
    const near = half[k]!;
    if (k + 1 === half.length) {
      for (let x = 0; x < n; x++) out[x]! += near * (a[x]! + b[x]!);
      return;
    }
    const c = shifted(-k - 1);
    const d = shifted(k + 1);
    const far = half[k + 1]!;
    for (let x = 0; x < n; x++) out[x]! += near * (a[x]! + b[x]!) + far * (c[x]! + d[x]!);
  }
}
