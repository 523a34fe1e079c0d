import { PATCH, type Patch } from './patches';
import { HANN, transform } from './transform';

/** A patch with less contrast (levels) holds nothing to judge by, and fewer than so many don't either. */
const CONTRAST = 30;
const PATCHES = 4;

/** Half of a patch: the finest pattern that pixels can hold has so many periods in it. */
export const RINGS = PATCH / 2;

/** Waves across in a spectrum: from none to half as many as pixels; beyond them it is the same once more. */
export const WAVES = RINGS + 1;

/** Power that a window leaves of white noise of one level. */
export const WINDOW_POWER = HANN.reduce((sum, weight) => sum + weight * weight, 0) ** 2;

/** The power spectra of patches, PATCH rows of WAVES frequencies; null where one holds too little contrast. */
export const powersOf = (patches: readonly Patch[]): (Float64Array | null)[] =>
  patches.map(({ width, height, luma }) =>
    width < PATCH || height < PATCH || !stands(luma) ? null : powerOf(luma),
  );

/** What spectra have on the mean; null where there are too few. */
export function meanPower(powers: readonly (Float64Array | null)[]): Float64Array | null {
  const all = powers.filter((power) => power !== null);
  if (all.length < PATCHES) return null;
  const mean = new Float64Array(PATCH * WAVES);
  for (const power of all) for (let i = 0; i < mean.length; i++) mean[i]! += power[i]! / all.length;
  return mean;
}

/** Power on the mean of all directions, at 0 to RINGS periods in a patch. */
export function ringsOf(power: Float64Array): Float64Array {
  const sums = new Float64Array(RINGS + 1);
  const counts = new Float64Array(RINGS + 1);
  for (let v = 0; v < PATCH; v++)
    for (let u = 0; u < WAVES; u++) {
      const ring = Math.round(Math.hypot(u, v <= RINGS ? v : v - PATCH));
      if (ring > RINGS) continue;
      sums[ring]! += power[v * WAVES + u]!;
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
/** Transformed rows. */
const real = new Float64Array(PATCH * WAVES);
const imaginary = new Float64Array(PATCH * WAVES);

function powerOf(luma: Float32Array): Float64Array {
  let mean = 0;
  for (const value of luma) mean += value / luma.length;
  // Two rows at a time, one as the imaginary part of the other: real values have the same spectrum from both ends.
  for (let y = 0; y < PATCH; y += 2) {
    for (let x = 0; x < PATCH; x++) {
      re[x] = (luma[y * PATCH + x]! - mean) * HANN[x]! * HANN[y]!;
      im[x] = (luma[(y + 1) * PATCH + x]! - mean) * HANN[x]! * HANN[y + 1]!;
    }
    transform(re, im);
    for (let u = 0; u < WAVES; u++) {
      const other = (PATCH - u) % PATCH;
      const [upper, lower] = [y * WAVES + u, (y + 1) * WAVES + u];
      real[upper] = (re[u]! + re[other]!) / 2;
      imaginary[upper] = (im[u]! - im[other]!) / 2;
      real[lower] = (im[u]! + im[other]!) / 2;
      imaginary[lower] = (re[other]! - re[u]!) / 2;
    }
  }
  const power = new Float64Array(PATCH * WAVES);
  for (let u = 0; u < WAVES; u++) {
    for (let y = 0; y < PATCH; y++) {
      re[y] = real[y * WAVES + u]!;
      im[y] = imaginary[y * WAVES + u]!;
    }
    transform(re, im);
    for (let v = 0; v < PATCH; v++) power[v * WAVES + u] = re[v]! * re[v]! + im[v]! * im[v]!;
  }
  return power;
}
