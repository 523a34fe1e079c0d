import type { Patch } from './patches';

/** Side of the squares in which texture is told, in pixels. */
const PLACE = 32;
/** Texture changes from pixel to pixel by so many levels at least, and by so many times its noise. */
const LEAST = 2.5;
const OVER_NOISE = 2;
/** Fourth moments to squares of variances: 3 of textures, far more where a few pixels hold an edge. */
const PEAKED = 6;

/**
 * Share of a picture that is texture, such as cloth, leaves, fur or stone: it changes from pixel to pixel, everywhere
 * alike, and by more than noise does.
 * @param noise standard deviation in levels
 */
export function measureTextured(patches: readonly Patch[], noise: number): number {
  let places = 0;
  let textured = 0;
  for (const { luma, width, height } of patches) {
    for (let top = 0; top + PLACE <= height; top += PLACE) {
      for (let left = 0; left + PLACE <= width; left += PLACE) {
        places++;
        if (isTextured(luma, width, left, top, noise)) textured++;
      }
    }
  }
  return places === 0 ? 0 : textured / places;
}

function isTextured(luma: Float32Array, width: number, left: number, top: number, noise: number) {
  let squares = 0;
  let fourth = 0;
  let count = 0;
  for (let y = top + 1; y < top + PLACE - 1; y++) {
    for (let x = left + 1; x < left + PLACE - 1; x++, count++) {
      const i = y * width + x;
      const beside = luma[i - 1]! + luma[i + 1]! + luma[i - width]! + luma[i + width]!;
      const fine = luma[i]! - beside / 4;
      squares += fine * fine;
      fourth += fine * fine * fine * fine;
    }
  }
  const variance = squares / count;
  const least = Math.max(LEAST, OVER_NOISE * noise);
  return variance >= least * least && fourth / count <= PEAKED * variance * variance;
}
