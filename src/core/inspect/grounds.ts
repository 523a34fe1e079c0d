import { z } from 'zod';
import { LUMA } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { percentile, type Patch } from './patches';

const channel = z.number().min(0).max(1);

/** A flat colour that a drawing lies on: R, G, B, 0–1. */
export const Ground = z.tuple([channel, channel, channel]);
export type Ground = z.infer<typeof Ground>;

/** A picture has so many at most. */
export const MOST_GROUNDS = 12;

/** Squares of so many pixels are looked at; a still one changes by no more than so many levels in any colour. */
const BLOCK = 8;
const STILL = 6;
/** A ground takes up at least this share of all squares. */
const SHARE = 0.008;
/** Nearly alike squares of a ground are so large a part of all of its. */
const PARTS = 4;
/** Of the squares within the farther distance from a ground, so many lie within the nearer; of a gradient they don't. */
const NEAR = 2;
const FAR = 9;
const FLAT = 0.75;

interface Square {
  mean: [number, number, number];
  taken: boolean;
}

/**
 * Flat colours that a drawing lies on, the most frequent first: those at which still squares heap up, where a gradient's
 * lie evenly spread.
 */
export function measureGrounds(patches: readonly Patch[]): Ground[] {
  const squares: Square[] = [];
  let total = 0;
  for (const patch of patches)
    for (let y = 0; y + BLOCK <= patch.height; y += BLOCK)
      for (let x = 0; x + BLOCK <= patch.width; x += BLOCK) {
        total++;
        const mean = stillMean(patch, x, y);
        if (mean) squares.push({ mean, taken: false });
      }
  const found: Ground[] = [];
  for (const start of byFrequency(squares, (SHARE * total) / PARTS)) {
    if (found.length === MOST_GROUNDS) break;
    if (start.taken) continue;
    const within = (from: readonly number[], most: number) =>
      squares.filter(
        ({ mean, taken }) => !taken && mean.every((value, c) => Math.abs(value - from[c]!) <= most),
      );
    const middle = medians(within(start.mean, NEAR));
    const near = within(middle, NEAR);
    const far = within(middle, FAR);
    for (const square of far) square.taken = true;
    if (near.length < SHARE * total || near.length < FLAT * far.length) continue;
    const [r, g, b] = medians(near).map((level) => Math.min(1, Math.max(0, level / 255)));
    found.push([r!, g!, b!]);
  }
  return found;
}

/** The mean of a square in levels; null where it is not still. */
function stillMean({ raster, width }: Patch, x: number, y: number): Square['mean'] | null {
  const means = raster.planes.slice(0, 3).map((plane) => {
    let [sum, least, most] = [0, Infinity, -Infinity];
    for (let v = y; v < y + BLOCK; v++)
      for (let u = x; u < x + BLOCK; u++) {
        const value = plane[v * width + u]! * 255;
        sum += value;
        least = Math.min(least, value);
        most = Math.max(most, value);
      }
    return most - least > STILL ? null : sum / BLOCK ** 2;
  });
  return means.includes(null) ? null : (means as Square['mean']);
}

/** One square of each colour that `least` of them nearly share, those first of whose colour there are most. */
function byFrequency(squares: readonly Square[], least: number): Square[] {
  const heaps = new Map<string, Square[]>();
  for (const square of squares) {
    const name = square.mean.map((level) => Math.round(level / NEAR)).join();
    const heap = heaps.get(name);
    if (heap) heap.push(square);
    else heaps.set(name, [square]);
  }
  return [...heaps.values()]
    .filter((heap) => heap.length >= least)
    .sort((a, b) => b.length - a.length)
    .map(([first]) => first!);
}

const medians = (squares: readonly Square[]): number[] =>
  [0, 1, 2].map((c) => {
    const sorted = squares.map(({ mean }) => mean[c]!).sort((a, b) => a - b);
    return sorted[sorted.length >> 1]!;
  });

/** In squares that differ by so much in luminance there are edges, beside which compression leaves specks. */
const BUSY = 60;
/** A pixel is a ground's, if one with specks, where it and all about it are within so many levels of it. */
const OWN = 24;
/** Fewer pixels tell nothing. */
const ENOUGH = 200;
/** The standard deviation over the middle one of how far values are off, of a Gaussian. */
const DEVIATION = 1.48;

/**
 * What compression left on the grounds beside lettering and edges: how far their pixels are off them, as a standard
 * deviation in levels of luminance, by the middle one so that what isn't of a ground doesn't count.
 */
export function measureSpecks(patches: readonly Patch[], grounds: readonly Ground[]): number {
  if (grounds.length === 0) return 0;
  const lumas = grounds.map(([r, g, b]) => 255 * (LUMA.red * r + LUMA.green * g + LUMA.blue * b));
  const own = grounds.map(() => OWN / 255);
  const off: number[] = [];
  for (const patch of patches) {
    const { luma, width, height } = patch;
    /** found once a square needs it: most patches of a drawing are still */
    let found: Int8Array | null = null;
    for (let y = 0; y + BLOCK <= height; y += BLOCK)
      for (let x = 0; x + BLOCK <= width; x += BLOCK) {
        if (!isBusy(luma, width, x, y)) continue;
        const of = (found ??= nearestGrounds(patch.raster, grounds, own));
        for (let v = Math.max(1, y); v < Math.min(height - 1, y + BLOCK); v++)
          for (let u = Math.max(1, x); u < Math.min(width - 1, x + BLOCK); u++) {
            const i = v * width + u;
            const k = of[i]!;
            if (k < 0 || !ABOUT.every(([du, dv]) => of[i + dv * width + du] === k)) continue;
            off.push(Math.abs(luma[i]! - lumas[k]!));
          }
      }
  }
  return off.length < ENOUGH ? 0 : DEVIATION * percentile(off, 0.5);
}

const ABOUT = [-1, 0, 1].flatMap((v) => [-1, 0, 1].map((u) => [u, v] as const));

/**
 * Whose each pixel may be: the number of the nearest ground, or -1 where it is too far off all of them.
 * @param tolerances of each ground, on the 0–1 scale, by the colour that is farthest off
 */
export function nearestGrounds(
  { planes }: Pick<Raster, 'planes'>,
  grounds: readonly Ground[],
  tolerances: readonly number[],
): Int8Array {
  const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
  const of = new Int8Array(red.length).fill(-1);
  for (let i = 0; i < red.length; i++) {
    let least = Infinity;
    for (let k = 0; k < grounds.length; k++) {
      const [r, g, b] = grounds[k]!;
      const off = Math.max(Math.abs(red[i]! - r), Math.abs(green[i]! - g), Math.abs(blue[i]! - b));
      if (off > tolerances[k]! || off >= least) continue;
      least = off;
      of[i] = k;
    }
  }
  return of;
}

function isBusy(luma: Float32Array, width: number, x: number, y: number): boolean {
  let [least, most] = [Infinity, -Infinity];
  for (let v = y; v < y + BLOCK; v++)
    for (let u = x; u < x + BLOCK; u++) {
      const value = luma[v * width + u]!;
      least = Math.min(least, value);
      most = Math.max(most, value);
    }
  return most - least >= BUSY;
}
