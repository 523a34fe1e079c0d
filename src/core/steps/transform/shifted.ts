import type { Region, Size } from '../../raster/region';
import { forward8, inverse8, LARGEST_FACTOR } from './dct';

/** One plane of a picture, in levels about zero, over part of its grid. */
export interface Plane {
  values: Float32Array;
  covered: Region;
  size: Size;
}

/** The grid of blocks that a file was compressed on; its blocks weigh more than shifted ones. */
export interface OwnGrid {
  /** where a block begins, -7 to 0 */
  x: number;
  y: number;
  weight: number;
}

/**
 * The weighted average over all 64 shifted grids of 8x8 blocks, in each of which coefficients
 * within their threshold are dropped; blocks with fewer that remain weigh more (Guleryuz 2006 on
 * weighted overcomplete transforms; Yu & Sapiro 2011, "DCT image denoising"). Both transforms are split: a row of blocks shares
 * its vertical transforms, and the horizontal ones are undone into vertical coefficients, so that
 * a block costs its horizontal half alone. Beyond the picture's borders its rim is repeated.
 *
 * @param plane levels over `region` grown by 14 as far as the picture goes
 * @param thresholds 64, in levels, row by row
 * @returns levels over `region`
 */
export function averageOverShifts(
  plane: Plane,
  region: Region,
  thresholds: readonly number[],
  own: OwnGrid | null = null,
): Float64Array {
  const { values, covered, size } = plane;
  const columns = region.width + 14;
  const column = new Float64Array(8);
  const vertical = new Float64Array(8 * columns);
  const sums = new Float64Array(8 * columns);
  const rowWeights = new Float64Array(columns);
  const block = new Float64Array(64);
  const back = new Float64Array(8);
  const half = Float64Array.from(thresholds);
  // A row of a block whose values sum below this (in magnitude) has no coefficient that is kept.
  const surelyZero = Float64Array.from(
    { length: 8 },
    (_, k) => (Math.min(...half.subarray(k * 8, k * 8 + 8)) * 0.9999) / LARGEST_FACTOR,
  );
  const magnitudes = new Float64Array(8 * (columns + 1));
  const total = new Float64Array(region.width * region.height);
  const weights = new Float64Array(region.width * region.height);
  const source = Int32Array.from(
    { length: columns },
    (_, i) => Math.min(Math.max(region.x - 7 + i, 0), size.width - 1) - covered.x,
  );

  for (let top = region.y - 7; top < region.y + region.height; top++) {
    for (let i = 0; i < columns; i++) {
      for (let k = 0; k < 8; k++) {
        const y = Math.min(Math.max(top + k, 0), size.height - 1) - covered.y;
        column[k] = values[y * covered.width + source[i]!]!;
      }
      forward8(column, 0, 1, vertical, i, columns);
    }
    for (let k = 0; k < 8; k++) {
      const from = k * columns;
      const to = k * (columns + 1);
      for (let i = 0; i < columns; i++) {
        magnitudes[to + i + 1] = magnitudes[to + i]! + Math.abs(vertical[from + i]!);
      }
    }
    sums.fill(0);
    rowWeights.fill(0);
    const onRow = own !== null && (top - own.y) % 8 === 0;
    for (let left = 0; left + 8 <= columns; left++) {
      let kept = 0;
      let rows = 0;
      for (let k = 0; k < 8; k++) {
        const m = k * (columns + 1) + left;
        if (magnitudes[m + 8]! - magnitudes[m]! < surelyZero[k]!) continue;
        forward8(vertical, k * columns + left, 1, block, k * 8, 1);
        let any = 0;
        for (let j = k * 8; j < k * 8 + 8; j++) {
          const coefficient = block[j]!;
          if (coefficient > half[j]! || coefficient < -half[j]!) any++;
          else block[j] = 0;
        }
        if (any > 0) rows |= 1 << k;
        kept += any;
      }
      const onGrid = onRow && (region.x - 7 + left - own.x) % 8 === 0;
      const weight = (onGrid ? own.weight : 1) / (1 + kept);
      for (let k = 0; k < 8; k++) {
        if (!(rows & (1 << k))) continue;
        inverse8(block, k * 8, 1, back, 0, 1);
        const at = k * columns + left;
        for (let j = 0; j < 8; j++) sums[at + j]! += weight * back[j]!;
      }
      for (let j = 0; j < 8; j++) rowWeights[left + j]! += weight;
    }
    const first = Math.max(0, region.y - top);
    const last = Math.min(8, region.y + region.height - top);
    for (let x = 0; x < region.width; x++) {
      inverse8(sums, x + 7, columns, column, 0, 1);
      const weight = rowWeights[x + 7]!;
      for (let k = first; k < last; k++) {
        const at = (top + k - region.y) * region.width + x;
        total[at]! += column[k]!;
        weights[at]! += weight;
      }
    }
  }
  for (let i = 0; i < total.length; i++) total[i]! /= weights[i]!;
  return total;
}
