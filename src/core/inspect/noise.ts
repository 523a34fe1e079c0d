import { percentile, type Patch } from './patches';

/** Noise as a standard deviation in levels. */
export interface Noise {
  luma: number;
  colour: number;
}

const BLOCK = 8;
/** The quiet blocks that are taken for plain: the lowest fifth; by chance they lie so much too low. */
const QUIET = 0.2;
const CORRECTION = 1.13;

/**
 * Noise by the mask of Immerkaer (1996), which is blind to ramps and edges, on blocks of 8 pixels;
 * robust in that only the quietest fifth of the blocks is believed to hold nothing but noise.
 */
export function measureNoise(patches: readonly Patch[]): Noise {
  const luma: number[] = [];
  const colour: number[] = [];
  for (const patch of patches) {
    for (let y = 1; y + BLOCK < patch.height; y += BLOCK) {
      for (let x = 1; x + BLOCK < patch.width; x += BLOCK) {
        const mean = meanOf(patch.luma, patch.width, x, y);
        // Where tones are clipped noise is too.
        if (mean < 4 || mean > 251) continue;
        luma.push(sigma(patch.luma, patch.width, x, y));
        const blue = sigma(patch.cb, patch.width, x, y);
        const red = sigma(patch.cr, patch.width, x, y);
        colour.push(Math.sqrt((blue * blue + red * red) / 2));
      }
    }
  }
  return {
    luma: CORRECTION * percentile(luma, QUIET),
    colour: CORRECTION * percentile(colour, QUIET),
  };
}

function meanOf(plane: Float32Array, width: number, x: number, y: number): number {
  let sum = 0;
  for (let v = y; v < y + BLOCK; v++)
    for (let u = x; u < x + BLOCK; u++) sum += plane[v * width + u]!;
  return sum / (BLOCK * BLOCK);
}

/** Standard deviation from the mean absolute answer of the mask 1 -2 1 / -2 4 -2 / 1 -2 1. */
function sigma(plane: Float32Array, width: number, x: number, y: number): number {
  let sum = 0;
  for (let v = y; v < y + BLOCK; v++) {
    for (let u = x; u < x + BLOCK; u++) {
      const i = v * width + u;
      const above = plane[i - width - 1]! - 2 * plane[i - width]! + plane[i - width + 1]!;
      const here = plane[i - 1]! - 2 * plane[i]! + plane[i + 1]!;
      const below = plane[i + width - 1]! - 2 * plane[i + width]! + plane[i + width + 1]!;
      sum += Math.abs(above - 2 * here + below);
    }
  }
  return (Math.sqrt(Math.PI / 2) * sum) / (6 * BLOCK * BLOCK);
}
