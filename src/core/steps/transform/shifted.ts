import { strideOf, scratchMemory } from '../../raster/rows';
import type { Region, Size } from '../../raster/region';

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

/** Pixels around a region that its average looks at. */
const REACH = 7;

/**
 * The weighted average over all 64 shifted grids of 8x8 blocks, in each of which coefficients
 * within their threshold are dropped; blocks with fewer that remain weigh more (Guleryuz 2006 on
 * weighted overcomplete transforms; Yu & Sapiro 2011, "DCT image denoising"). Beyond the picture's
 * borders its rim is repeated. In single precision; the sums of a pixel don't depend on the region.
 *
 * @param plane levels over `region` grown by 7 as far as the picture goes
 * @param thresholds 64, in levels, row by row
 * @returns levels over `region`
 */
export function averageOverShifts(
  plane: Plane,
  region: Region,
  thresholds: readonly number[],
  own: OwnGrid | null = null,
): Float32Array {
  const { values, covered } = plane;
  // Blocks are taken by fours that begin at multiples of 4 of the picture.
  const left = 4 * Math.floor((region.x - REACH) / 4);
  const top = region.y - REACH;
  const blocks = 4 * Math.ceil((region.x + region.width - left) / 4);
  const stride = strideOf(blocks + 8);
  const rows = region.height + 2 * REACH;
  const [table, sums, weights, work] = [
    rows * stride,
    rows * stride + 64,
    (rows + region.height) * stride + 64,
    (rows + 2 * region.height) * stride + 64,
  ];
  const memory = scratchMemory(4 * (work + 18 * stride) + 1200);
  const { floats } = memory;
  const lastRow = covered.height - 1;
  const lastColumn = covered.width - 1;
  for (let y = 0; y < rows; y++) {
    const line = Math.min(Math.max(top + y - covered.y, 0), lastRow) * covered.width;
    for (let x = 0; x < stride; x++) {
      const column = Math.min(Math.max(left + x - covered.x, 0), lastColumn);
      floats[y * stride + x] = values[line + column]!;
    }
  }
  floats.set(thresholds, table);
  floats.fill(0, sums, work);
  const phase = (from: number): number => ((from % 8) + 8) % 8;
  memory.shiftedBlocks(
    0,
    stride,
    region.height,
    blocks,
    table * 4,
    work * 4,
    sums * 4,
    weights * 4,
    phase((own?.x ?? 0) - left),
    phase((own?.y ?? 0) - top),
    own?.weight ?? 1,
  );
  const result = new Float32Array(region.width * region.height);
  for (let y = 0, i = 0; y < region.height; y++) {
    const line = y * stride + region.x - left;
    for (let x = 0; x < region.width; x++, i++) {
      result[i] = floats[sums + line + x]! / floats[weights + line + x]!;
    }
  }
  return result;
}
