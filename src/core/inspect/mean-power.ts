import { PATCH, type Patch } from './patches';
import { HANN, transform } from './transform';

/** A patch with less contrast (levels) holds nothing to judge by, and fewer than so many don't either. */
const CONTRAST = 30;
const PATCHES = 4;

/** Half of a patch: the finest pattern that pixels can hold has so many periods in it. */
export const RINGS = PATCH / 2;

/** Power that a window leaves of white noise of one level. */
export const WINDOW_POWER = HANN.reduce((sum, weight) => sum + weight * weight, 0) ** 2;

/** The power spectra of patches, a frequency after the other; null where one holds too little contrast. */
export const powersOf = (patches: readonly Patch[]): (Float64Array | null)[] =>
  patches.map(({ width, height, luma }) =>
    width < PATCH || height < PATCH || !stands(luma) ? null : powerOf(luma),
  );

/** What spectra have on the mean; null where there are too few. */
export function meanPower(powers: readonly (Float64Array | null)[]): Float64Array | null {
  const all = powers.filter((power) => power !== null);
  if (all.length < PATCHES) return null;
  const mean = new Float64Array(PATCH * PATCH);
  for (const power of all) for (let i = 0; i < mean.length; i++) mean[i]! += power[i]! / all.length;
  return mean;
}

/** Power on the mean of all directions, at 0 to RINGS periods in a patch. */
export function ringsOf(power: Float64Array): Float64Array {
  const sums = new Float64Array(RINGS + 1);
  const counts = new Float64Array(RINGS + 1);
  for (let v = 0; v < PATCH; v++)
    for (let u = 0; u <= RINGS; u++) {
      const ring = Math.round(Math.hypot(u, v <= RINGS ? v : v - PATCH));
      if (ring > RINGS) continue;
      sums[ring]! += power[v * PATCH + u]!;
      counts[ring]!++;
    }
  return sums.map((sum, ring) => sum / counts[ring]!);
}

function stands(luma: Float32Array): boolean {
  let least = Infinity;
  let most = -Infinity;
  for (const value of luma) {
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return most - least >= CONTRAST;
}

const re = new Float64Array(PATCH);
const im = new Float64Array(PATCH);

function powerOf(luma: Float32Array): Float64Array {
  let mean = 0;
  for (const value of luma) mean += value / luma.length;
  const real = new Float64Array(PATCH * PATCH);
  const imaginary = new Float64Array(PATCH * PATCH);
  for (let y = 0; y < PATCH; y++) {
    for (let x = 0; x < PATCH; x++) {
      re[x] = (luma[y * PATCH + x]! - mean) * HANN[x]! * HANN[y]!;
    }
    im.fill(0);
    transform(re, im);
    real.set(re, y * PATCH);
    imaginary.set(im, y * PATCH);
  }
  const power = new Float64Array(PATCH * PATCH);
  for (let x = 0; x < PATCH; x++) {
    for (let y = 0; y < PATCH; y++) {
      re[y] = real[y * PATCH + x]!;
      im[y] = imaginary[y * PATCH + x]!;
    }
    transform(re, im);
    for (let y = 0; y < PATCH; y++) power[y * PATCH + x] = re[y]! * re[y]! + im[y]! * im[y]!;
  }
  return power;
}
