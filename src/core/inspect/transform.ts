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
  const bins = length / 2;
  const cosines = Float64Array.from({ length: bins }, (_, i) =>
    Math.cos((2 * Math.PI * i) / length),
  );
  const sines = Float64Array.from(
    { length: bins },
    (_, i) => -Math.sin((2 * Math.PI * i) / length),
  );
  return (re, im) => {
    for (let i = 1, j = 0; i < length; i++) {
      let bit = length >> 1;
      for (; j & bit; bit >>= 1) j ^= bit;
      j ^= bit;
      if (i < j) {
        [re[i], re[j]] = [re[j]!, re[i]!];
        [im[i], im[j]] = [im[j]!, im[i]!];
      }
    }
    for (let part = 2; part <= length; part <<= 1) {
      const half = part >> 1;
      const step = length / part;
      for (let start = 0; start < length; start += part) {
        for (let k = 0; k < half; k++) {
          const [c, s] = [cosines[k * step]!, sines[k * step]!];
          const [a, b] = [start + k, start + k + half];
          const r = re[b]! * c - im[b]! * s;
          const i = re[b]! * s + im[b]! * c;
          re[b] = re[a]! - r;
          im[b] = im[a]! - i;
          re[a]! += r;
          im[a]! += i;
        }
      }
    }
  };
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
