import { kernels, type SeparableKernel } from './kernels';

/** What one axis is resampled by: a kernel, or the exact areas that pixels cover. */
export type AxisMethod = SeparableKernel | 'nearest';

/** One axis of a resampling: a real-valued span of the source spread over whole target pixels. */
export interface Axis {
  method: AxisMethod;
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
  /**
   * The four source pixels about a target pixel begin so many taps in, and there are so many of
   * them within the picture: what a limiter of ringing keeps it between. Null when reducing.
   */
  near: { from: Int32Array; count: Int32Array } | null;
}

const scaleOf = ({ span, targetSize }: Axis): number => span / targetSize;

/** Taps a target pixel, the same for all of them. */
export function tapsOf(axis: Axis): number {
  const scale = scaleOf(axis);
  const wanted =
    axis.method === 'nearest'
      ? // A span that begins within one pixel may end in another.
        isWhole(1 / scale) && isWhole(axis.origin / scale)
        ? 1
        : Math.ceil(scale - HAIR) + 1
      : Math.ceil(2 * kernels[axis.method].radius * Math.max(1, scale));
  return Math.min(axis.sourceSize, wanted);
}

/** So far from a pixel's border counts as upon it. */
const HAIR = 1e-9;
const isWhole = (value: number): boolean => Math.abs(value - Math.round(value)) < 1e-7;

/** Sampling point of a target pixel on the source: half-pixel centres, pixel 0 centred at 0. */
const centreOf = (axis: Axis, index: number): number =>
  axis.origin + ((index + 0.5) * axis.span) / axis.targetSize - 0.5;

/** The first source pixel that target pixel `index` takes from; never one outside the source. */
export function firstTap(axis: Axis, index: number): number {
  const last = axis.sourceSize - tapsOf(axis);
  if (axis.method === 'nearest') {
    const begin = axis.origin + index * scaleOf(axis);
    return Math.min(Math.max(Math.floor(begin + HAIR), 0), last);
  }
  const support = kernels[axis.method].radius * Math.max(1, scaleOf(axis));
  return Math.min(Math.max(Math.floor(centreOf(axis, index) - support) + 1, 0), last);
}

/**
 * Filter weights for target pixels `start` to `start + count`, normalised to a sum of one. A kernel
 * stands at half-pixel centres, widened when reducing so that nothing aliases; nearest neighbour
 * weighs source pixels by the share of the target pixel that they cover, so that whole-number
 * factors repeat them and what is between is made up exactly. Taps that would fall outside the
 * source are left out and the rest renormalised.
 */
export function buildFilter(axis: Axis, start: number, count: number): Filter {
  const taps = tapsOf(axis);
  const first = new Int32Array(count);
  const weights = new Float64Array(count * taps);
  const scale = scaleOf(axis);
  const weigh = axis.method === 'nearest' ? covering(axis) : swinging(axis);
  const limited = axis.method !== 'nearest' && scale < 1;
  const near = limited ? { from: new Int32Array(count), count: new Int32Array(count) } : null;
  for (let i = 0; i < count; i++) {
    const from = firstTap(axis, start + i);
    first[i] = from;
    let sum = 0;
    for (let k = 0; k < taps; k++) {
      const weight = weigh(from + k, start + i);
      weights[i * taps + k] = weight;
      sum += weight;
    }
    // A sliver beyond the picture's border lies on its last pixel.
    if (sum === 0) weights[i * taps] = sum = 1;
    for (let k = 0; k < taps; k++) weights[i * taps + k]! /= sum;
    if (near) {
      const left = Math.max(Math.floor(centreOf(axis, start + i)) - 1 - from, 0);
      const right = Math.min(Math.floor(centreOf(axis, start + i)) + 2 - from, taps - 1);
      near.from[i] = Math.min(left, taps - 1);
      near.count[i] = Math.max(1, right - near.from[i]! + 1);
    }
  }
  return { taps, first, weights, near };
}

type Weigh = (source: number, target: number) => number;

function swinging(axis: Axis): Weigh {
  const kernel = kernels[axis.method as SeparableKernel];
  const widened = Math.max(1, scaleOf(axis));
  return (source, target) => kernel.weight((source - centreOf(axis, target)) / widened);
}

function covering(axis: Axis): Weigh {
  const scale = scaleOf(axis);
  const bounded = (at: number) => Math.min(Math.max(at, 0), axis.sourceSize);
  return (source, target) => {
    const begin = bounded(axis.origin + target * scale);
    const end = bounded(axis.origin + (target + 1) * scale);
    const covered = Math.min(end, source + 1) - Math.max(begin, source);
    return covered > HAIR ? covered : 0;
  };
}
