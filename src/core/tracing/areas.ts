import { LEVEL } from '../raster/samples';
import type { Raster } from '../raster/raster';
import { fillAt } from './fills';
import { Sets } from '../raster/sets';
import type { Fill } from './tracing';

/** Areas of a picture: of every pixel the number of the area that it belongs to. */
export interface Areas {
  width: number;
  height: number;
  of: Int32Array;
  count: number;
}

/** A pixel is still where its neighbours on either side differ by no more than twice so many levels. */
const STILL = 2 * LEVEL;
/** Still pixels beside each other are one area where they differ by no more. */
const ALIKE = 3 * LEVEL;

/** How much the picture changes at each pixel: the most of all channels, along the steeper axis. */
export function steepness({ width, height, planes }: Raster): Float32Array {
  const steep = new Float32Array(width * height);
  for (const plane of planes)
    for (let y = 0; y < height; y++) {
      const above = Math.max(0, y - 1) * width;
      const below = Math.min(height - 1, y + 1) * width;
      for (let x = 0, i = y * width; x < width; x++, i++) {
        const across =
          plane[y * width + Math.min(width - 1, x + 1)]! - plane[y * width + Math.max(0, x - 1)]!;
        const down = plane[below + x]! - plane[above + x]!;
        const most = Math.max(Math.abs(across), Math.abs(down)) / 2;
        if (most > steep[i]!) steep[i] = most;
      }
    }
  return steep;
}

/** The greatest difference of two pixels in any channel. */
export function difference({ planes }: Raster, a: number, b: number): number {
  let most = 0;
  for (const plane of planes) most = Math.max(most, Math.abs(plane[a]! - plane[b]!));
  return most;
}

/**
 * Finds areas as watersheds do (Beucher & Lantuéjoul 1979): where the picture stands still there is an area, however
 * thin; all else goes to the area beside it that it is most alike.
 */
export function findAreas(picture: Raster, steep = steepness(picture)): Areas {
  const { width, height } = picture;
  const seeds = new Sets(width * height);
  const isSeed = (i: number) => steep[i]! <= STILL;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!isSeed(i)) continue;
      const join = (j: number) => {
        if (isSeed(j) && difference(picture, i, j) <= ALIKE) seeds.join(i, j);
      };
      if (x > 0) join(i - 1);
      if (y === 0) continue;
      join(i - width);
      if (x > 0) join(i - width - 1);
      if (x < width - 1) join(i - width + 1);
    }
  const of = new Int32Array(width * height).fill(-1);
  const numbers = new Int32Array(width * height).fill(-1);
  let count = 0;
  for (let i = 0; i < of.length; i++) {
    if (!isSeed(i)) continue;
    const root = seeds.root(i);
    if (numbers[root] === -1) numbers[root] = count++;
    of[i] = numbers[root]!;
  }
  if (count === 0) {
    of.fill(0);
    return { width, height, of, count: 1 };
  }
  // Of each pixel, the still one that its area reached it from.
  const origin = Int32Array.from(of, (_, i) => i);
  flood(
    of,
    width,
    (to, from) => difference(picture, origin[from]!, to),
    (to, from) => (origin[to] = origin[from]!),
  );
  return { width, height, of, count };
}

/**
 * The same without some of the areas: what was theirs goes to those beside it, and their numbers stand for nothing.
 * @param gone 1 for each of them
 */
export function withoutAreas(
  picture: Raster,
  areas: Areas,
  fills: readonly Fill[],
  gone: Uint8Array,
): Areas {
  const { width, of } = areas;
  const left = of.map((area) => (gone[area] ? -1 : area));
  flood(left, width, (to, from) => {
    const [x, y] = [(to % width) + 0.5, Math.floor(to / width) + 0.5];
    let most = 0;
    picture.planes.forEach((plane, c) => {
      most = Math.max(most, Math.abs(plane[to]! - fillAt(fills[left[from]!]!, c, x, y)));
    });
    return most;
  });
  return { ...areas, of: left };
}

/** Levels that differences are sorted by. */
const BINS = 1024;

/** Gives every pixel without an area to the one beside it that it differs least from, the surest first. */
function flood(
  of: Int32Array,
  width: number,
  differs: (to: number, from: number) => number,
  reached: (to: number, from: number) => void = () => {},
): void {
  const height = of.length / width;
  const queue = new Buckets(BINS);
  const offer = (from: number, to: number) => {
    if (of[to] !== -1) return;
    const bin = Math.min(BINS - 1, Math.floor(differs(to, from) * BINS));
    queue.push(bin, to, from);
  };
  const around = (i: number) => {
    const x = i % width;
    if (x > 0) offer(i, i - 1);
    if (x < width - 1) offer(i, i + 1);
    if (i >= width) offer(i, i - width);
    if (i < width * (height - 1)) offer(i, i + width);
  };
  for (let i = 0; i < of.length; i++) if (of[i] !== -1) around(i);
  const pair = new Int32Array(2);
  while (queue.pop(pair)) {
    const [to, from] = [pair[0]!, pair[1]!];
    if (of[to] !== -1) continue;
    of[to] = of[from]!;
    reached(to, from);
    around(to);
  }
}

/** Pairs by a small whole number, the least first; those that are alike in the order in which they came. */
class Buckets {
  private readonly heads: Int32Array;
  private readonly tails: Int32Array;
  /** of each pair its two numbers, and the pair that comes after it */
  private pairs = new Int32Array(3 << 16);
  private count = 0;
  private least = 0;

  constructor(bins: number) {
    this.heads = new Int32Array(bins).fill(-1);
    this.tails = new Int32Array(bins).fill(-1);
  }

  push(bin: number, a: number, b: number): void {
    const at = 3 * this.count++;
    if (at + 3 > this.pairs.length) {
      const roomier = new Int32Array(2 * this.pairs.length);
      roomier.set(this.pairs);
      this.pairs = roomier;
    }
    this.pairs[at] = a;
    this.pairs[at + 1] = b;
    this.pairs[at + 2] = -1;
    const tail = this.tails[bin]!;
    if (tail === -1) this.heads[bin] = at;
    else this.pairs[tail + 2] = at;
    this.tails[bin] = at;
    if (bin < this.least) this.least = bin;
  }

  /** Puts the next pair into `pair`; false where there is none. */
  pop(pair: Int32Array): boolean {
    for (; this.least < this.heads.length; this.least++) {
      const head = this.heads[this.least]!;
      if (head === -1) continue;
      pair[0] = this.pairs[head]!;
      pair[1] = this.pairs[head + 1]!;
      this.heads[this.least] = this.pairs[head + 2]!;
      if (this.heads[this.least] === -1) this.tails[this.least] = -1;
      return true;
    }
    return false;
  }
}
