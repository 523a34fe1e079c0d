import { LRUCache } from 'lru-cache';
import { sinPi } from '../../raster/portable-math';
import { pointSpread, spreadReach, type Spread, type Taps } from './point-spread';

/** The farthest that an inverse looks, in pixels. */
const REACH_LIMIT = 24;
/** Frequencies along an axis: more than twice as many as the inverse has taps. */
const N = 96;

/** Pixels about a pixel that the inverse of a spread looks at: beyond them its weights have died away. */
export const inverseReach = (spread: Spread): number =>
  Math.min(REACH_LIMIT, Math.ceil(SPREADS[spread.form] * spreadReach(spread)) + 3);

/** How many spreads it takes until an inverse has died away: those with hard rims swing for longer. */
const SPREADS = { gaussian: 1.5, disc: 4, motion: 4 } as const;

const COSINES = Float64Array.from({ length: N }, (_, k) => sinPi((2 * k) / N + 0.5));
const cosine = (k: number): number => COSINES[((k % N) + N) % N]!;

const kept = new LRUCache<string, Taps>({ max: 8 });
/** Of each spread what it leaves of the frequencies: that stays while one chooses how much noise is held back. */
const responses = new LRUCache<string, Float64Array>({ max: 4 });

/**
 * Weights that undo a blur: Wiener's filter (1949) for subjects whose power falls with the square of the frequency,
 * cut off where it has died away. All spreads here are alike on both sides of their middle, so that cosines are enough.
 * @param noise power of noise over that of the subject at the finest frequency: the more, the less is undone
 */
export function inverseOf(spread: Spread, noise: number): Taps {
  const key = JSON.stringify([spread, noise]);
  let taps = kept.get(key);
  if (!taps) kept.set(key, (taps = computeInverse(spread, noise)));
  return taps;
}

function computeInverse(spread: Spread, noise: number): Taps {
  const key = JSON.stringify(spread);
  let response = responses.get(key);
  if (!response) responses.set(key, (response = responseTo(spread)));
  const reach = inverseReach(spread);
  const found = isMirrored(spread)
    ? mirroredInverse(wiener(response, HALF + 1, noise), reach)
    : fullInverse(wiener(response, N, noise), reach);
  const { side } = found;
  const weights = found.weights.map((weight, i) => {
    const x = i % side;
    return weight * taper(x - reach, reach) * taper((i - x) / side - reach, reach);
  });
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return { side, weights: weights.map((weight) => weight / total) };
}

const responseTo = (spread: Spread): Float64Array =>
  isMirrored(spread) ? mirroredResponse(pointSpread(spread)) : responseOf(pointSpread(spread));

/** Whether a spread is alike to either side of both axes; frequencies up to half a period a pixel then say all. */
const isMirrored = ({ form }: Spread): boolean => form !== 'motion';
const HALF = N / 2;

/** The two-dimensional cosine transform of what is mirrored at its first row and column, from `from` x `from` to `to` x `to`. */
function transformed(
  values: Float64Array,
  from: number,
  to: number,
  /** how often a row or column stands in the whole */
  times: (at: number) => number,
): Float64Array {
  const across = new Float64Array(from * to);
  for (let y = 0; y < from; y++)
    for (let u = 0; u < to; u++) {
      let sum = 0;
      for (let x = 0; x < from; x++) sum += times(x) * values[y * from + x]! * cosine(u * x);
      across[y * to + u] = sum;
    }
  const result = new Float64Array(to * to);
  for (let v = 0; v < to; v++)
    for (let u = 0; u < to; u++) {
      let sum = 0;
      for (let y = 0; y < from; y++) sum += times(y) * across[y * to + u]! * cosine(v * y);
      result[v * to + u] = sum;
    }
  return result;
}

function mirroredResponse({ side, weights }: Taps): Float64Array {
  const length = (side + 1) / 2;
  const quarter = Float64Array.from({ length: length * length }, (_, i) => {
    const x = i % length;
    return weights[((i - x) / length + length - 1) * side + x + length - 1]!;
  });
  return transformed(quarter, length, HALF + 1, (at) => (at === 0 ? 1 : 2));
}

function mirroredInverse(response: Float64Array, reach: number): Taps {
  const length = reach + 1;
  const quarter = transformed(response, HALF + 1, length, (at) => (at % HALF === 0 ? 1 : 2));
  const side = 2 * reach + 1;
  const weights = Float64Array.from({ length: side * side }, (_, i) => {
    const x = i % side;
    return quarter[Math.abs((i - x) / side - reach) * length + Math.abs(x - reach)]!;
  });
  return { side, weights };
}

/** Weights whose response is the one that is given, of all frequencies; alike through their middle. */
function fullInverse(response: Float64Array, reach: number): Taps {
  const side = 2 * reach + 1;
  const weights = new Float64Array(side * side);
  // Across first, then down: each is a sum of cosines and of sines, of which the sines cancel over the whole.
  const half = new Float64Array(N * side * 2);
  for (let v = 0; v < N; v++)
    for (let x = 0; x < side; x++) {
      let even = 0;
      let odd = 0;
      for (let u = 0; u < N; u++) {
        const value = response[v * N + u]!;
        even += value * cosine(u * (x - reach));
        odd += value * cosine(u * (x - reach) - N / 4);
      }
      half[(v * side + x) * 2] = even;
      half[(v * side + x) * 2 + 1] = odd;
    }
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      let sum = 0;
      for (let v = 0; v < N; v++) {
        const at = (v * side + x) * 2;
        // cos(a + b) = cos a cos b - sin a sin b
        sum +=
          half[at]! * cosine(v * (y - reach)) - half[at + 1]! * cosine(v * (y - reach) - N / 4);
      }
      weights[y * side + x] = sum;
    }
  return { side, weights };
}

/** What a spread leaves of each frequency. */
function responseOf({ side, weights }: Taps): Float64Array {
  const reach = (side - 1) / 2;
  const response = new Float64Array(N * N);
  const rows = new Float64Array(side * N * 2);
  for (let y = 0; y < side; y++)
    for (let u = 0; u < N; u++) {
      let even = 0;
      let odd = 0;
      for (let x = 0; x < side; x++) {
        even += weights[y * side + x]! * cosine(u * (x - reach));
        odd += weights[y * side + x]! * cosine(u * (x - reach) - N / 4);
      }
      rows[(y * N + u) * 2] = even;
      rows[(y * N + u) * 2 + 1] = odd;
    }
  for (let v = 0; v < N; v++)
    for (let u = 0; u < N; u++) {
      let sum = 0;
      for (let y = 0; y < side; y++) {
        const at = (y * N + u) * 2;
        sum +=
          rows[at]! * cosine(v * (y - reach)) - rows[at + 1]! * cosine(v * (y - reach) - N / 4);
      }
      response[v * N + u] = sum;
    }
  return response;
}

/** @param response of `count` x `count` frequencies, beginning with those of no period */
function wiener(response: Float64Array, count: number, noise: number): Float64Array {
  return response.map((value, i) => {
    const u = i % count;
    const v = (i - u) / count;
    const [fx, fy] = [Math.min(u, N - u) / N, Math.min(v, N - v) / N];
    // Over the square of the finest frequency, half a period a pixel.
    const over = noise * 4 * (fx * fx + fy * fy);
    return value / (value * value + over);
  });
}

/** Runs out over the last third, so that nothing is cut off hard. */
function taper(at: number, reach: number): number {
  const share = Math.abs(at) / (reach + 1);
  return share < 2 / 3 ? 1 : (1 + sinPi(3 * (share - 2 / 3) + 0.5)) / 2;
}
