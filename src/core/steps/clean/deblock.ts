import { alignOutward, clip, grow, type Region, type Size } from '../../raster/region';
import { forward8, inverse8, LARGEST_FACTOR } from './dct';

/** Pixels around a pixel that the estimate looks at: its own grid block, and shifted blocks about that. */
export const DEBLOCK_REACH = 14;

/** Blocks on the file's own grid count for so many shifted ones. */
const OWN_GRID = 4;
/** How far from the file's value a coefficient may move, in quantisation steps. */
const CONSTRAINT = 0.35;

/** One plane of a picture, in levels about zero, over part of its grid. */
export interface Plane {
  values: Float32Array;
  covered: Region;
  size: Size;
}

/**
 * What a plane most likely was before an 8x8 block transform quantised it. Every one of the 64
 * shifted grids is transformed, coefficients within half a quantisation step of zero are dropped,
 * and the overlapping results averaged, blocks with fewer coefficients weighing more; then each
 * coefficient on the file's own grid is held to within a part of its step of what the file says.
 * After Nosratinia (2001), "Enhancement of JPEG-compressed images by re-application of JPEG", and
 * Guleryuz (2006) on weighted overcomplete transforms; the projection is onto the quantisation
 * constraint set.
 *
 * @param plane levels over `region` grown by DEBLOCK_REACH as far as the picture goes
 * @param table 64 quantisation steps in levels, row by row
 * @param gridX,gridY where a block of the file's grid begins, -7 to 0
 * @returns levels over `region`
 */
export function deblock(
  plane: Plane,
  region: Region,
  table: readonly number[],
  gridX: number,
  gridY: number,
): Float32Array {
  const blocks = alignToGrid(region, gridX, gridY, plane.size);
  const estimate = averageOverShifts(plane, blocks, table, gridX, gridY);
  project(plane, estimate, blocks, table, gridX, gridY);
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    const from = (region.y + y - blocks.y) * blocks.width + region.x - blocks.x;
    for (let x = 0; x < region.width; x++) result[y * region.width + x] = estimate[from + x]!;
  }
  return result;
}

/** `region` moved outward to whole blocks of the file's grid, as far as the picture goes. */
function alignToGrid(region: Region, gridX: number, gridY: number, size: Size): Region {
  const shifted = { ...region, x: region.x - gridX, y: region.y - gridY };
  const aligned = alignOutward(shifted, 8, {
    width: size.width - gridX + 8,
    height: size.height - gridY + 8,
  });
  return clip({ ...aligned, x: aligned.x + gridX, y: aligned.y + gridY }, size);
}

/**
 * The weighted average over all shifted grids. Both transforms are split: a row of blocks shares
 * its vertical transforms, and the horizontal ones are undone into vertical coefficients, so that
 * a block costs its horizontal half alone. Beyond the picture's borders its rim is repeated.
 */
function averageOverShifts(
  plane: Plane,
  region: Region,
  table: readonly number[],
  gridX: number,
  gridY: number,
): Float64Array {
  const { values, covered, size } = plane;
  const columns = region.width + 14;
  const column = new Float64Array(8);
  const vertical = new Float64Array(8 * columns);
  const sums = new Float64Array(8 * columns);
  const rowWeights = new Float64Array(columns);
  const block = new Float64Array(64);
  const back = new Float64Array(8);
  const half = Float64Array.from(table, (step) => step / 2);
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
    const onRow = (top - gridY) % 8 === 0;
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
      const onGrid = onRow && (region.x - 7 + left - gridX) % 8 === 0;
      const weight = (onGrid ? OWN_GRID : 1) / (1 + kept);
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

/** Holds every whole block of the file's own grid to what the file says of it; changes `estimate`. */
function project(
  plane: Plane,
  estimate: Float64Array,
  region: Region,
  table: readonly number[],
  gridX: number,
  gridY: number,
): void {
  const { values, covered } = plane;
  const said = new Float64Array(64);
  const guess = new Float64Array(64);
  const firstX = region.x + ((((gridX - region.x) % 8) + 8) % 8);
  const firstY = region.y + ((((gridY - region.y) % 8) + 8) % 8);
  for (let y = firstY; y + 8 <= region.y + region.height; y += 8) {
    for (let x = firstX; x + 8 <= region.x + region.width; x += 8) {
      for (let j = 0; j < 8; j++) {
        const from = (y + j - covered.y) * covered.width + x - covered.x;
        const at = (y + j - region.y) * region.width + x - region.x;
        for (let i = 0; i < 8; i++) {
          said[j * 8 + i] = values[from + i]!;
          guess[j * 8 + i] = estimate[at + i]!;
        }
      }
      transform(said, forward8);
      transform(guess, forward8);
      for (let k = 0; k < 64; k++) {
        const step = table[k]!;
        const value = Math.round(said[k]! / step) * step;
        guess[k] = Math.min(
          Math.max(guess[k]!, value - CONSTRAINT * step),
          value + CONSTRAINT * step,
        );
      }
      transform(guess, inverse8);
      for (let j = 0; j < 8; j++) {
        const at = (y + j - region.y) * region.width + x - region.x;
        for (let i = 0; i < 8; i++) estimate[at + i] = guess[j * 8 + i]!;
      }
    }
  }
}

const turned = new Float64Array(64);

/** An 8x8 block through rows and columns, in place. */
function transform(block: Float64Array, along: typeof forward8): void {
  for (let k = 0; k < 8; k++) along(block, k * 8, 1, turned, k * 8, 1);
  for (let k = 0; k < 8; k++) along(turned, k, 8, block, k, 8);
}

/** What must be read so that `deblock` can answer for `region`. */
export const deblockPull = (region: Region, size: Size): Region =>
  grow(region, DEBLOCK_REACH, size);
