import type { Size } from '../raster/region';

/** How strongly an 8x8 grid shows in a picture. */
export interface Blocking {
  /** mean difference across block borders over the mean difference inside blocks; 1 = no grid */
  ratio: number;
}

/**
 * Measures blocking on luminance: neighbouring pixels on either side of a block border against
 * neighbours elsewhere, both along rows and down columns (after the generalised block-edge
 * measure of Wu & Yuen 1997, without its masking). Strong edges are capped, so that a few of them
 * on a border don't count as blocks.
 * @param luma luminance 0–1, row by row
 * @param gridX,gridY where a block begins
 */
export function measureBlocking(luma: Float32Array, size: Size, gridX = 0, gridY = 0): Blocking {
  const cap = 24 / 255;
  let border = 0;
  let borders = 0;
  let inside = 0;
  let insides = 0;
  const count = (difference: number, onBorder: boolean) => {
    const capped = Math.min(Math.abs(difference), cap);
    if (onBorder) {
      border += capped;
      borders++;
    } else {
      inside += capped;
      insides++;
    }
  };
  for (let y = 0; y < size.height; y++) {
    const line = y * size.width;
    for (let x = 1; x < size.width; x++) {
      count(luma[line + x]! - luma[line + x - 1]!, (x - gridX) % 8 === 0);
    }
  }
  for (let y = 1; y < size.height; y++) {
    const line = y * size.width;
    const onBorder = (y - gridY) % 8 === 0;
    for (let x = 0; x < size.width; x++) {
      count(luma[line + x]! - luma[line + x - size.width]!, onBorder);
    }
  }
  if (borders === 0 || insides === 0) return { ratio: 1 };
  // A tenth of a level of rounding, so that flat pictures don't divide nothing by nothing.
  const floor = 0.1 / 255;
  return { ratio: (border / borders + floor) / (inside / insides + floor) };
}
