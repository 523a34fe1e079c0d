import { boxMean } from '../../raster/box-mean';
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

const means = (values: Float32Array, covered: Region, region: Region): Float32Array =>
  Float32Array.from(boxMean(values, covered, region, RADIUS));

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
  const mean = means(values, covered, inner);
  const guideMean = means(guide, covered, inner);
  const both = means(product, covered, inner);
  const spread = means(square, covered, inner);
  const slopes = new Float32Array(mean.length);
  const levels = new Float32Array(mean.length);
  for (let i = 0; i < mean.length; i++) {
    const m = guideMean[i]!;
    slopes[i] = (both[i]! - m * mean[i]!) / (Math.max(0, spread[i]! - m * m) + FLAT);
    levels[i] = mean[i]! - slopes[i]! * m;
  }
  return { slope: means(slopes, inner, region), level: means(levels, inner, region) };
}
