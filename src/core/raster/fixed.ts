import type { Raster } from './raster';

/**
 * Values kept as whole numbers of 16 bits: from half below none to half above full, in steps of 2^-15. That is half
 * of what floats take, and finer than results of 8 bits show, or two steps of 16 bits.
 */
const STEPS = 32_768;
const BELOW = 0.5;
const MOST = 65_535;

/** Rounds values to what is kept of them, in place: what is computed on is then the same, kept or not. */
export function roundToFixed(raster: Raster): Raster {
  for (const plane of raster.planes) {
    for (let i = 0; i < plane.length; i++) {
      // Rounded by floor, which every engine does alike for halves.
      const at = Math.floor((plane[i]! + BELOW) * STEPS + 0.5);
      plane[i] = (at < 0 ? 0 : at > MOST ? MOST : at) / STEPS - BELOW;
    }
  }
  return raster;
}

/** A plane of rounded values as the numbers that are kept. */
export function toFixed(plane: Float32Array): Uint16Array<ArrayBuffer> {
  const kept = new Uint16Array(plane.length);
  for (let i = 0; i < plane.length; i++) kept[i] = (plane[i]! + BELOW) * STEPS;
  return kept;
}

/** The values of numbers that were kept. */
export function fromFixed(kept: Uint16Array, into: Float32Array): void {
  for (let i = 0; i < kept.length; i++) into[i] = kept[i]! / STEPS - BELOW;
}
