import { percentile, PATCH, type Patch, type Sample } from './patches';
import { HANN, transform } from './transform';

/** Half of a patch: the finest pattern that pixels can hold has so many periods in it. */
const BINS = PATCH / 2;
/** A patch with less contrast (levels) holds nothing to judge sharpness by. */
const CONTRAST = 30;
/** Patterns leave gaps in a spectrum; detail goes on beyond one of so many frequencies. */
const GAP = 4;
/** Power below this share of what an ideal edge has there is not detail any more. */
const LEFT = 0.2;
/** The sharpest tenth of a picture shows what it resolves; a background may be soft on purpose. */
const SHARPEST = 0.9;

/** How much of its nominal resolution a picture really carries. */
export interface Detail {
  /** share of the finest frequency that still carries detail, 0–1; null where nothing can be judged */
  resolution: number | null;
  /** the same, patch by patch; null where a patch is plain */
  map: (number | null)[];
}

/**
 * Real against nominal resolution. The spectrum of an edge falls with the square of the frequency;
 * lenses, motion and earlier enlarging take the upper part of it away. In every patch the
 * frequency is sought up to which a fair share of it remains above the noise.
 * @param noise standard deviation of luminance noise, levels
 */
export function measureDetail({ patches }: Sample, noise: number): Detail {
  const map = patches.map((patch) => cutOff(patch, noise));
  const judged = map.filter((value) => value !== null);
  return { resolution: judged.length === 0 ? null : percentile(judged, SHARPEST), map };
}

const WINDOW_POWER = HANN.reduce((sum, weight) => sum + weight * weight, 0);

function cutOff(patch: Patch, noise: number): number | null {
  if (patch.width < PATCH || patch.height < PATCH) return null;
  const power = new Float64Array(BINS + 1);
  let lines = 0;
  for (let i = 0; i < PATCH; i += 2) {
    lines += addSpectrum(power, patch.luma, i * PATCH, 1);
    lines += addSpectrum(power, patch.luma, i, PATCH);
  }
  if (lines < 4) return null;
  for (let k = 0; k <= BINS; k++) power[k]! /= lines;
  // What an ideal edge would have, by the strongest of the low frequencies.
  let scale = 0;
  for (let k = 1; k <= 5; k++) scale = Math.max(scale, power[k]! * k * k);
  const floor = 4 * WINDOW_POWER * noise * noise + 2;
  let last = 1;
  for (let k = 2; k < BINS && k - last <= GAP; k++) {
    const here = (power[k - 1]! + power[k]! + power[k + 1]!) / 3;
    if (here >= Math.max((LEFT * scale) / (k * k), floor)) last = k;
  }
  return Math.min(1, (last + 1) / BINS);
}

const real = new Float64Array(PATCH);
const imaginary = new Float64Array(PATCH);

/** Adds the power spectrum of a line that has contrast; returns how many lines were added. */
function addSpectrum(power: Float64Array, luma: Float32Array, start: number, stride: number) {
  let least = Infinity;
  let most = -Infinity;
  let mean = 0;
  for (let i = 0, at = start; i < PATCH; i++, at += stride) {
    const value = luma[at]!;
    if (value < least) least = value;
    if (value > most) most = value;
    mean += value / PATCH;
  }
  if (most - least < CONTRAST) return 0;
  for (let i = 0, at = start; i < PATCH; i++, at += stride) {
    real[i] = (luma[at]! - mean) * HANN[i]!;
    imaginary[i] = 0;
  }
  transform(real, imaginary);
  for (let k = 0; k <= BINS; k++) power[k]! += real[k]! * real[k]! + imaginary[k]! * imaginary[k]!;
  return 1;
}
