import { kernels, type Method } from './kernels';

/** One axis of a resampling: a real-valued span of the source spread over whole target pixels. */
export interface Axis {
  method: Method;
  /** pixels of the source along this axis */
  sourceSize: number;
  /** where the target's first pixel begins on the source, in source pixels */
  origin: number;
  /** source pixels that the whole target covers */
  span: number;
  /** pixels of the target along this axis */
  targetSize: number;
}

/** The taps of a run of target pixels: `weights[i * taps + k]` goes with source pixel `first[i] + k`. */
export interface Filter {
  taps: number;
  first: Int32Array;
  weights: Float64Array;
}

/** Taps a target pixel, the same for all of them. */
export function tapsOf(axis: Axis): number {
  if (axis.method === 'nearest') return 1;
  const widened = Math.max(1, axis.span / axis.targetSize);
  return Math.min(axis.sourceSize, Math.ceil(2 * kernels[axis.method].radius * widened));
}

/** Sampling point of a target pixel on the source: half-pixel centres, pixel 0 centred at 0. */
const centreOf = (axis: Axis, index: number): number =>
  axis.origin + ((index + 0.5) * axis.span) / axis.targetSize - 0.5;

/** The first source pixel that target pixel `index` takes from; never one outside the source. */
export function firstTap(axis: Axis, index: number): number {
  const centre = centreOf(axis, index);
  const last = axis.sourceSize - tapsOf(axis);
  if (axis.method === 'nearest') return Math.min(Math.max(Math.round(centre), 0), last);
  const widened = Math.max(1, axis.span / axis.targetSize);
  const support = kernels[axis.method].radius * widened;
  return Math.min(Math.max(Math.floor(centre - support) + 1, 0), last);
}

/**
 * Filter weights for target pixels `start` to `start + count`: the kernel at half-pixel centres,
 * widened when reducing so that nothing aliases, normalised to a sum of one. Taps that would fall
 * outside the source are left out and the rest renormalised.
 */
export function buildFilter(axis: Axis, start: number, count: number): Filter {
  const taps = tapsOf(axis);
  const first = new Int32Array(count);
  const weights = new Float64Array(count * taps);
  const widened = Math.max(1, axis.span / axis.targetSize);
  for (let i = 0; i < count; i++) {
    const from = firstTap(axis, start + i);
    first[i] = from;
    if (axis.method === 'nearest') {
      weights[i] = 1;
      continue;
    }
    const kernel = kernels[axis.method];
    const centre = centreOf(axis, start + i);
    let sum = 0;
    for (let k = 0; k < taps; k++) {
      const weight = kernel.weight((from + k - centre) / widened);
      weights[i * taps + k] = weight;
      sum += weight;
    }
    for (let k = 0; k < taps; k++) weights[i * taps + k]! /= sum;
  }
  return { taps, first, weights };
}
