import { sinPi } from '../raster/portable-math';
import { PATCH } from './patches';

/** A line's window: its ends don't meet. */
export const hann = (length: number): Float64Array =>
  Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length));

/** The same for lines of PATCH values. */
export const HANN = hann(PATCH);

/** Transforms a line of values in place: its real and its imaginary part. */
export type Transform = (re: Float64Array, im: Float64Array) => void;

/**
 * The fast Fourier transform of lines of a length (Cooley & Tukey 1965).
 * @param length a power of two
 */
export function transformOf(length: number): Transform {
  const swapped = swapsOf(length);
  // Of parts of 4, 8, … values one after the other, as they are needed.
  const cosines = new Float64Array(length);
  const sines = new Float64Array(length);
  for (let half = 2; half < length; half <<= 1)
    for (let k = 0; k < half; k++) {
      cosines[half + k] = Math.cos((Math.PI * k) / half);
      sines[half + k] = -Math.sin((Math.PI * k) / half);
    }
  return (re, im) => {
    for (let n = 0; n < swapped.length; n += 2) {
      const i = swapped[n]!;
      const j = swapped[n + 1]!;
      const real = re[i]!;
      const imaginary = im[i]!;
      re[i] = re[j]!;
      im[i] = im[j]!;
      re[j] = real;
      im[j] = imaginary;
    }
    for (let a = 0; a < length; a += 2) {
      const real = re[a + 1]!;
      const imaginary = im[a + 1]!;
      re[a + 1] = re[a]! - real;
      im[a + 1] = im[a]! - imaginary;
      re[a]! += real;
      im[a]! += imaginary;
    }
    for (let half = 2; half < length; half <<= 1) {
      for (let start = 0; start < length; start += 2 * half) {
        for (let k = 0; k < half; k++) {
          const cos = cosines[half + k]!;
          const sin = sines[half + k]!;
          const a = start + k;
          const b = a + half;
          const real = re[b]! * cos - im[b]! * sin;
          const imaginary = re[b]! * sin + im[b]! * cos;
          re[b] = re[a]! - real;
          im[b] = im[a]! - imaginary;
          re[a]! += real;
          im[a]! += imaginary;
        }
      }
    }
  };
}

/** Pairs of places of a line that change places before it is transformed: each with the one of the same bits backwards. */
function swapsOf(length: number): Uint32Array {
  const pairs: number[] = [];
  for (let i = 1, j = 0; i < length; i++) {
    let bit = length >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) pairs.push(i, j);
  }
  return Uint32Array.from(pairs);
}

/** Of lines of PATCH values. */
export const transform = transformOf(PATCH);

/** How strong values are at a frequency (one value of a Fourier transform), in periods from one to the next. */
export function strengthAt(values: Float64Array, frequency: number): number {
  // Each turn follows from the one before.
  const [cos, sin] = [sinPi(2 * frequency + 0.5), sinPi(2 * frequency)];
  let [x, y, real, imaginary] = [1, 0, 0, 0];
  for (const value of values) {
    real += value * x;
    imaginary += value * y;
    const turned = x * cos - y * sin;
    y = x * sin + y * cos;
    x = turned;
  }
  return Math.sqrt(real * real + imaginary * imaginary);
}
