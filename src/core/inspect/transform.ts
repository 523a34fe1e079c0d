import { PATCH } from './patches';

const BINS = PATCH / 2;

/** A line's window: its ends don't meet. */
export const HANN = Float64Array.from(
  { length: PATCH },
  (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / PATCH),
);

const cosines = Float64Array.from({ length: BINS }, (_, i) => Math.cos((2 * Math.PI * i) / PATCH));
const sines = Float64Array.from({ length: BINS }, (_, i) => -Math.sin((2 * Math.PI * i) / PATCH));

/** Fast Fourier transform of a line of PATCH values, in place (Cooley & Tukey 1965). */
export function transform(re: Float64Array, im: Float64Array): void {
  for (let i = 1, j = 0; i < PATCH; i++) {
    let bit = PATCH >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j]!, re[i]!];
      [im[i], im[j]] = [im[j]!, im[i]!];
    }
  }
  for (let length = 2; length <= PATCH; length <<= 1) {
    const half = length >> 1;
    const step = PATCH / length;
    for (let start = 0; start < PATCH; start += length) {
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
}
