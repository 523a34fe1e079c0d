import { toYCbCr } from '../raster/colour';
import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { cells, grow, within, type Region, type Size } from '../raster/region';
import type { Network } from './network';
import { mirror, onPairs } from './planes';

/** Sides of what the network computes at a time, at most: bounds memory. */
const LARGEST = 512;
/** Pixels around a pixel that its result looks at: ten convolutions at half resolution. */
const RIM = 20;
/** What the network is given: training/networks.py says in which order. */
const PLANES = 12;
const CHANGE_GAIN = 4;

/** What a cleaner is told of the damage. */
export interface Damage {
  /** of luminance's and of colour's compression, 0–1 */
  severity: { luma: number; colour: number };
  /** whether colour has half the samples */
  halved: boolean;
  /** standard deviation of noise in levels */
  noise: number;
  /** where a block begins, at or left of the picture; null where there are none */
  blocks: { x: number; y: number } | null;
  /** what else it is told, a plane each, of networks that read more than these */
  more?: readonly number[];
}

/** Where the given picture and the classical estimate are needed for `region`. */
export const learnedInput = (region: Region, size: Size): Region =>
  grow(onPairs(region, size), RIM, size);

/**
 * The picture as a network leaves it: the classical estimate and what the network adds to it.
 * @param given,estimate over at least `learnedInput(region)`
 * @returns R, G, B of `region`, and alpha as it was
 */
export function cleanLearned(
  network: Network,
  given: Window,
  estimate: Window,
  region: Region,
  size: Size,
  damage: Damage,
): Raster {
  const result = emptyRaster(region.width, region.height, estimate.raster.form);
  for (const cell of cells(region, LARGEST, size)) {
    const part = within(cell, region);
    const read = onPairs(part, size);
    const sides = {
      width: read.width + (read.width % 2) + 2 * RIM,
      height: read.height + (read.height % 2) + 2 * RIM,
    };
    const planes = planesFor(read, sides, given, estimate, size, damage);
    const added = network.run(planes, sides.width, sides.height, RIM);
    lay(result, region, estimate, added, read, part);
  }
  return result;
}

/** The planes that the network reads to compute a part, with the rim about it. */
function planesFor(
  part: Region,
  { width, height }: Size,
  given: Window,
  estimate: Window,
  size: Size,
  { severity, halved, noise, blocks, more = [] }: Damage,
): Float32Array {
  const count = width * height;
  const planes = new Float32Array((PLANES + more.length) * count);
  const told = [severity.luma, severity.colour, halved ? 1 : 0, noise / 50];
  told.forEach((value, i) => planes.fill(value, (6 + i) * count, (7 + i) * count));
  more.forEach((value, i) => planes.fill(value, (PLANES + i) * count, (PLANES + i + 1) * count));
  // What lies farther than the rim beyond a border is seen by nobody, but must be there.
  const left = Math.max(0, part.x - RIM);
  const top = Math.max(0, part.y - RIM);
  const columns = Int32Array.from({ length: width }, (_, u) =>
    Math.max(mirror(part.x - RIM + u, size.width), left),
  );
  const before = toYCbCr(given.raster);
  const after = toYCbCr(estimate.raster);
  const pairs = [
    [before.y, after.y],
    [before.cb, after.cb],
    [before.cr, after.cr],
  ] as const;
  pairs.forEach(([was, is], k) => {
    const change = CHANGE_GAIN / 255;
    for (let v = 0, i = k * count; v < height; v++) {
      const y = Math.max(mirror(part.y - RIM + v, size.height), top);
      const line = placeIn(given, 0, y);
      const there = placeIn(estimate, 0, y);
      for (let u = 0; u < width; u++, i++) {
        const x = columns[u]!;
        const level = was[line + x]!;
        planes[i] = level / 255;
        planes[3 * count + i] = change * (is[there + x]! - level);
      }
    }
  });
  if (blocks) {
    const across = Float32Array.from({ length: width }, (_, u) =>
      toMiddle(part.x - RIM + u - blocks.x),
    );
    for (let v = 0; v < height; v++) {
      planes.set(across, 10 * count + v * width);
      const down = toMiddle(part.y - RIM + v - blocks.y);
      planes.fill(down, 11 * count + v * width, 11 * count + (v + 1) * width);
    }
  }
  return planes;
}

const placeIn = ({ region }: Window, x: number, y: number): number =>
  (y - region.y) * region.width + x - region.x;

/** Distance to the middle of a block, 0–1. */
const toMiddle = (at: number): number => Math.abs((((at % 8) + 8) % 8) - 3.5) / 3.5;

/** Lays the estimate and what the network added to it over `part` of the result; it did so for `read`. */
function lay(
  result: Raster,
  region: Region,
  estimate: Window,
  added: Float32Array,
  read: Region,
  part: Region,
): void {
  const width = read.width + (read.width % 2);
  const count = width * (read.height + (read.height % 2));
  const from = estimate.raster.planes;
  const to = result.planes;
  for (let y = part.y; y < part.y + part.height; y++) {
    for (let x = part.x; x < part.x + part.width; x++) {
      const at = placeIn(estimate, x, y);
      const put = (y - region.y) * region.width + x - region.x;
      const i = (y - read.y) * width + x - read.x;
      const luma = added[i]!;
      const cb = added[count + i]!;
      const cr = added[2 * count + i]!;
      to[0]![put] = from[0]![at]! + luma + 1.402 * cr;
      to[1]![put] = from[1]![at]! + luma - 0.344136 * cb - 0.714136 * cr;
      to[2]![put] = from[2]![at]! + luma + 1.772 * cb;
      if (to[3]) to[3][put] = from[3]![at]!;
    }
  }
}
