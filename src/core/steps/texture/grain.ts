import type { Region } from '../../raster/region';
import { gaussianWeights } from '../../raster/gaussian';

/** Four bytes that follow from a place alone (an integer hash after Wang 2007), -1 to 1 evenly. */
function hash(x: number, y: number, salt: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(salt, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  h ^= h >>> 16;
  return (h >>> 0) / 2147483648 - 1;
}

/** Nearly gaussian with a standard deviation of 1: the sum of three even ones, each of 1/sqrt(3). */
const white = (x: number, y: number): number => hash(x, y, 1) + hash(x, y, 2) + hash(x, y, 3);

/**
 * Grain over a region: noise with a standard deviation of 1, the same at a place whatever region it
 * is asked for, softened to grains of `size` pixels.
 */
export function grain(region: Region, size: number): Float32Array {
  const sigma = size / 2;
  const weights = sigma < 0.3 ? Float64Array.of(1) : gaussianWeights(sigma);
  const reach = (weights.length - 1) / 2;
  // Softening takes strength away: squares of weights add up to what is left.
  let sum = 0;
  for (const weight of weights) sum += weight * weight;
  const scale = 1 / sum;
  // The grid has no borders here, so places left of and above the picture count too.
  const wide = {
    x: region.x - reach,
    y: region.y - reach,
    width: region.width + 2 * reach,
    height: region.height + 2 * reach,
  };
  const rows = new Float64Array(region.width * wide.height);
  const noise = new Float64Array(wide.width);
  for (let y = 0; y < wide.height; y++) {
    for (let x = 0; x < wide.width; x++) noise[x] = white(wide.x + x, wide.y + y);
    for (let x = 0; x < region.width; x++) {
      let value = 0;
      for (let k = 0; k < weights.length; k++) value += weights[k]! * noise[x + k]!;
      rows[y * region.width + x] = value;
    }
  }
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++)
    for (let x = 0; x < region.width; x++) {
      let value = 0;
      for (let k = 0; k < weights.length; k++)
        value += weights[k]! * rows[(y + k) * region.width + x]!;
      result[y * region.width + x] = value * scale;
    }
  return result;
}
