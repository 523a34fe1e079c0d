import type { Size } from '../raster/region';

/** How strongly an 8x8 grid shows in a picture. */
export interface Blocking {
  /** mean difference across block borders over that of the strongest line inside blocks; 1 = no grid */
  ratio: number;
}

/** Differences count up to so much, so that a few strong edges on a border aren't taken for blocks. */
const CAP = 24 / 255;
/** A tenth of a level of rounding, so that flat pictures don't divide nothing by nothing. */
const FLOOR = 0.1 / 255;

/**
 * Measures blocking on luminance: neighbouring pixels on either side of a block border against
 * neighbours on each of the seven other lines of a block (a phase-wise form of the block-edge
 * measure of Wu & Yuen 1997). Against the strongest of them, since pixel squares and fine patterns
 * have lines of their own.
 * @param luma luminance 0–1, row by row
 * @param gridX,gridY where a block begins
 */
export function measureBlocking(luma: Float32Array, size: Size, gridX = 0, gridY = 0): Blocking {
  const sums = new Float64Array(8);
  const counts = new Float64Array(8);
  const { width, height } = size;
  for (let y = 0; y < height; y++) {
    const line = y * width;
    for (let x = 1; x < width; x++) {
      const phase = (((x - gridX) % 8) + 8) % 8;
      sums[phase]! += Math.min(Math.abs(luma[line + x]! - luma[line + x - 1]!), CAP);
      counts[phase]!++;
    }
  }
  for (let y = 1; y < height; y++) {
    const line = y * width;
    const phase = (((y - gridY) % 8) + 8) % 8;
    for (let x = 0; x < width; x++) {
      sums[phase]! += Math.min(Math.abs(luma[line + x]! - luma[line + x - width]!), CAP);
    }
    counts[phase]! += width;
  }
  if (counts.some((count) => count === 0)) return { ratio: 1 };
  const [border, ...inside] = sums.map((sum, phase) => sum / counts[phase]! + FLOOR);
  return { ratio: border! / Math.max(...inside) };
}
