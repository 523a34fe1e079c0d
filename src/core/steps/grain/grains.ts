import { gaussian, means } from '../../raster/gaussian';
import type { Region } from '../../raster/region';

/** Four bytes that follow from a place alone (an integer hash after Wang 2007), -1 to 1 evenly. */
function hash(x: number, y: number, salt: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(salt, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  h ^= h >>> 16;
  return (h >>> 0) / 2147483648 - 1;
}

/** Nearly gaussian with a standard deviation of 1: the sum of three even ones, each of 1/sqrt(3). */
const white = (x: number, y: number, salt: number): number =>
  hash(x, y, 3 * salt + 1) + hash(x, y, 3 * salt + 2) + hash(x, y, 3 * salt + 3);

/** Grains wider than this, as a standard deviation in pixels, are laid out on a lattice of their own. */
const WIDE = 6;

/**
 * Grain over a region: noise with a standard deviation of 1, the same at a place whatever region it is asked for,
 * softened to grains of `size` pixels. It follows from the place, and comes back only after 2^32 pixels.
 * @param layer grains of other layers don't follow from each other
 */
export function grains(region: Region, size: number, layer = 0): Float32Array {
  const sigma = size / 2;
  return sigma > WIDE
    ? onLattice(region, Math.round(sigma), layer)
    : softened(region, sigma, layer);
}

function softened(region: Region, sigma: number, layer: number): Float32Array {
  const { width, height } = region;
  const weights = sigma < 0.3 ? { half: Float64Array.of(1) } : gaussian(sigma);
  const reach = weights.half.length - 1;
  const size = { width: width + 2 * reach, height: height + 2 * reach };
  const noise = new Float32Array(size.width * size.height);
  // Softening takes strength away: squares of weights add up to what is left, along either axis.
  const sums = weights.half.reduce(
    (both, weight, k) => {
      const times = k === 0 ? 1 : 2;
      return { all: both.all + times * weight, squares: both.squares + times * weight * weight };
    },
    { all: 0, squares: 0 },
  );
  const scale = (sums.all * sums.all) / sums.squares;
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++) {
      noise[i] = scale * white(region.x - reach + x, region.y - reach + y, layer);
    }
  const inner = { x: reach, y: reach, width, height };
  return means(noise, { x: 0, y: 0, ...size }, inner, size, weights);
}

/** Cubic B-splines about points so many pixels apart: soft enough that their lattice doesn't show. */
function onLattice(region: Region, apart: number, layer: number): Float32Array {
  const { width, height } = region;
  const left = Math.floor(region.x / apart) - 1;
  const top = Math.floor(region.y / apart) - 1;
  const columns = Math.floor((region.x + width - 1) / apart) + 3 - left;
  const result = new Float32Array(width * height);
  const row = new Float64Array(columns);
  const weights = Array.from({ length: apart }, (_, k) => splines((k + 0.5) / apart));
  const own = Array.from(
    { length: Math.floor((region.y + height - 1) / apart) + 3 - top },
    (_, v) =>
      Float64Array.from({ length: columns }, (_, u) => SPLINED * white(left + u, top + v, layer)),
  );
  const phase = (at: number): number => at - Math.floor(at / apart) * apart;
  for (let y = 0; y < height; y++) {
    const first = Math.floor((region.y + y) / apart) - 1 - top;
    const down = weights[phase(region.y + y)]!;
    for (let u = 0; u < columns; u++) {
      row[u] = down.reduce((sum, weight, k) => sum + weight * own[first + k]![u]!, 0);
    }
    for (let x = 0; x < width; x++) {
      const cell = Math.floor((region.x + x) / apart) - 1 - left;
      const [a, b, c, d] = weights[phase(region.x + x)]!;
      result[y * width + x] =
        a * row[cell]! + b * row[cell + 1]! + c * row[cell + 2]! + d * row[cell + 3]!;
    }
  }
  return result;
}

/** What splines take of a standard deviation along both axes together, on the mean, given back. */
const SPLINED = 1 / 0.479;

/** Weights of the four points about a place between the middle two, 0–1. */
function splines(t: number): [number, number, number, number] {
  const s = 1 - t;
  const near = (u: number) => 2 / 3 - u * u + (u * u * u) / 2;
  return [(s * s * s) / 6, near(t), near(s), (t * t * t) / 6];
}
