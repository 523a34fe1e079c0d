import { grow, type Region } from '../../raster/region';
import type { Plane } from '../transform/shifted';

/** Samples on either side of a window. */
const RADIUS = 2;
/** Samples around a sample that its coefficients look at. */
export const GUIDED_REACH = 2 * RADIUS;
/** Variance of the guide, in levels squared, that counts as none. */
const FLAT = 6;

/** A plane as `slope` times its guide plus `level`, sample by sample. */
export interface Guided {
  slope: Float32Array;
  level: Float32Array;
}

/**
 * How a plane follows another one locally: the line through both in every window of 5 x 5 samples,
 * averaged over the windows that hold a sample (He, Sun & Tang 2010, "Guided image filtering").
 * @param plane,guide over the same part, which is `region` grown by GUIDED_REACH as far as they go
 */
export function guided(plane: Plane, guide: Float32Array, region: Region): Guided {
  const { values, covered, size } = plane;
  const inner = grow(region, RADIUS, size);
  const product = new Float32Array(values.length);
  const square = new Float32Array(values.length);
  for (let i = 0; i < values.length; i++) {
    product[i] = values[i]! * guide[i]!;
    square[i] = guide[i]! * guide[i]!;
  }
  const mean = boxMean(values, covered, inner);
  const guideMean = boxMean(guide, covered, inner);
  const both = boxMean(product, covered, inner);
  const spread = boxMean(square, covered, inner);
  const slopes = new Float32Array(mean.length);
  const levels = new Float32Array(mean.length);
  for (let i = 0; i < mean.length; i++) {
    const m = guideMean[i]!;
    slopes[i] = (both[i]! - m * mean[i]!) / (Math.max(0, spread[i]! - m * m) + FLAT);
    levels[i] = mean[i]! - slopes[i]! * m;
  }
  return { slope: boxMean(slopes, inner, region), level: boxMean(levels, inner, region) };
}

/** Means over windows about every sample of `region`, of what of them is covered; the same sums however it is cut. */
function boxMean(values: Float32Array, covered: Region, region: Region): Float32Array {
  const rows = new Float64Array(region.width * covered.height);
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < covered.height; y++) {
    for (let x = 0; x < region.width; x++) {
      const from = Math.max(region.x + x - RADIUS, covered.x) - covered.x;
      const to = Math.min(region.x + x + RADIUS + 1, covered.x + covered.width) - covered.x;
      let sum = 0;
      for (let k = from; k < to; k++) sum += values[y * covered.width + k]!;
      rows[y * region.width + x] = sum / (to - from);
    }
  }
  for (let y = 0; y < region.height; y++) {
    const from = Math.max(region.y + y - RADIUS, covered.y) - covered.y;
    const to = Math.min(region.y + y + RADIUS + 1, covered.y + covered.height) - covered.y;
    for (let x = 0; x < region.width; x++) {
      let sum = 0;
      for (let k = from; k < to; k++) sum += rows[k * region.width + x]!;
      result[y * region.width + x] = sum / (to - from);
    }
  }
  return result;
}
