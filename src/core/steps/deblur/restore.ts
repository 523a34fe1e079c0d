import { boxMean } from '../../raster/box-mean';
import { copyRun, cutPlane } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { scratchMemory } from '../../raster/rows';
import type { Taps } from './point-spread';

/** Pixels to every side over which it is judged whether something is more than noise. */
const JUDGED = 2;
/** What is brought back counts where its power is more than so many times that of the noise brought back with it. */
const CERTAINTY = 2;

/** Pixels about a pixel that its restoration looks at. */
export const restoreReach = ({ side }: Taps): number => (side - 1) / 2 + JUDGED;

/**
 * What the inverse of a blur brings back: it is kept where it stands out from the noise that it amplifies, and dies away
 * where it doesn't (Wiener's rule by local power, after Lee 1980), so that flat areas stay quiet.
 * @param luma over `covered`, which is `region` grown by `restoreReach` as far as the picture goes
 * @param noise standard deviation of luminance noise, on the scale of `luma`
 * @returns what is to be added to luminance, over `region`
 */
export function broughtBack(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  taps: Taps,
  noise: number,
): Float32Array {
  const near = grow(region, JUDGED, size);
  const change = changeOf(luma, covered, near, taps);
  const { side, weights } = taps;
  const middle = (side * side - 1) / 2;
  const gain = weights.reduce(
    (sum, weight, i) => sum + (i === middle ? weight - 1 : weight) ** 2,
    0,
  );
  return judged(change, near, region, CERTAINTY * noise * noise * gain);
}

/** Luminance through the inverse, less itself; beyond the picture its rim is repeated. */
function changeOf(luma: Float32Array, covered: Region, region: Region, { side, weights }: Taps) {
  const reach = (side - 1) / 2;
  const rows = region.height + 2 * reach;
  const lanes = Math.ceil(region.width / 16) * 16;
  const stride = lanes + 2 * reach + 16;
  const [taps, out] = [rows * stride, rows * stride + side * side];
  const memory = scratchMemory((out + lanes) * 4);
  const { floats } = memory;
  const left = covered.x - (region.x - reach);
  const right = left + covered.width;
  const skip = Math.max(0, -left);
  for (let y = 0; y < rows; y++) {
    const from = Math.min(Math.max(region.y - reach + y - covered.y, 0), covered.height - 1);
    const at = y * stride;
    const end = Math.min(right, stride);
    copyRun(luma, from * covered.width + skip, floats, at + left + skip, end - left - skip);
    floats.fill(floats[at + left + skip]!, at, at + left + skip);
    floats.fill(floats[at + end - 1]!, at + end, at + stride);
  }
  floats.set(weights, taps);
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    memory.tapsRow(out * 4, y * stride * 4, stride * 4, taps * 4, side, lanes);
    const own = (y + reach) * stride + reach;
    for (let x = 0; x < region.width; x++) {
      result[y * region.width + x] = floats[out + x]! - floats[own + x]!;
    }
  }
  return result;
}

/** A change, less where its power over the pixels about it is hardly more than `least`. */
function judged(change: Float32Array, covered: Region, region: Region, least: number) {
  const powers = boxMean(
    new Float64Array(change).map((value) => value * value),
    covered,
    region,
    JUDGED,
  );
  return cutPlane(change, covered, region).map((value, i) =>
    powers[i]! > least ? value * (1 - least / powers[i]!) : 0,
  );
}
