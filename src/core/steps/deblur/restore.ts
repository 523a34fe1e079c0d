import { meanRows, type Weights } from '../../raster/gaussian';
import { copyRun, rowStart } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { SPARE } from '../../raster/rows';
import type { Taps } from './point-spread';
import { convolved } from './convolve';

/** Pixels to every side over which it is judged whether something is more than noise. */
const JUDGED = 2;
/** What is brought back counts where its power is more than so many times that of the noise brought back with it. */
const CERTAINTY = 2;

/** Pixels about a pixel that its restoration looks at. */
export const restoreReach = ({ side }: Taps): number => (side - 1) / 2 + JUDGED;

/**
 * Luminance with what the inverse of a blur brings back: that is kept where it stands out from the noise that it
 * amplifies, and dies away where it doesn't (Wiener's rule by local power, after Lee 1980), so that flat areas stay
 * quiet.
 * @param luma over `covered`, which holds `region` grown by `restoreReach` as far as the picture goes
 * @param noise standard deviation of luminance noise, on the scale of `luma`
 */
export function restored(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  taps: Taps,
  noise: number,
): Float32Array {
  const { width, height } = region;
  const near = grow(region, JUDGED, size);
  const change = convolved(luma, covered, near, size, taps);
  for (let y = 0, i = 0; y < near.height; y++) {
    let at = rowStart(covered, near, y);
    for (let x = 0; x < near.width; x++, i++, at++) change[i]! -= luma[at]!;
  }
  const powers = change.map((value) => value * value);
  const least = CERTAINTY * noise * noise * noiseOf(taps);
  const result = new Float32Array(width * height);
  const line = width + SPARE;
  meanRows(powers, near, region, size, AROUND, 2 * line, (memory, { mean, own }, y) => {
    const { floats } = memory;
    copyRun(luma, rowStart(covered, region, y), floats, own / 4, width);
    copyRun(change, rowStart(near, region, y), floats, own / 4 + line, width);
    memory.restoreRow(own, own, own + 4 * line, mean, least, width);
    copyRun(floats, own / 4, result, y * width, width);
  });
  return result;
}

/** All pixels that power is judged by count alike. */
const AROUND: Weights = { half: new Float64Array(JUDGED + 1).fill(1) };

/** Variance of what the inverse makes of noise, beside that noise, over the noise's own. */
const noiseOf = ({ side, weights }: Taps): number =>
  weights.reduce(
    (sum, weight, i) => sum + (i === (side * side - 1) / 2 ? weight - 1 : weight) ** 2,
    0,
  );
