import { z } from 'zod';
import { eachWave, wavesAnywhere, WAVES, type Plane } from './block-waves';
import { ownGrid, type JpegFacts } from './jpeg';
import { STANDARD_LUMA, tableAtQuality } from './jpeg-quality';

/** How a file was compressed before it was compressed as it is now. */
export const CompressedBefore = z.object({
  quality: z.int().min(1).max(100),
  /** where a block of it begins, 0–7 */
  x: z.int().min(0).max(7),
  y: z.int().min(0).max(7),
});
export type CompressedBefore = z.infer<typeof CompressedBefore>;

/** The coarsest quality that is told; and the finest, as an own one leaves room for a coarser before it. */
const COARSEST = 30;
const FINEST = 92;

/**
 * Earlier JPEG compression of a JPEG, as far as it was coarser than the present one: on the same grid, or, after cropping, on
 * another.
 * @param own how the file says that it is compressed
 */
export function compressedBefore(
  patches: readonly Plane[],
  own: JpegFacts,
): CompressedBefore | null {
  const grid = ownGrid(own)!;
  const onSame = onSameGrid(patches, own, grid);
  if (onSame !== null) return { quality: onSame, ...grid };
  return onOtherGrid(patches, own, grid);
}

/** Multiples of a step up to this level are counted. */
const LEVELS = 200;
/** A step that tells is so many times the own one; a wave that tells has so many values … */
const COARSER = 1.25;
const ENOUGH = 40;
/** … for which one compression and two leave as different a sign as this; and so many waves tell. */
const APART = 0.25;
const TELL = 3;
/** As much of what two compressions leave (1) as one never does; and of the best, as much as the right one has. */
const TWICE = 0.45;
const AS_GOOD = 0.84;

/**
 * What was quantised coarsely and then finely leaves gaps: of the fine steps only those next to multiples of a coarse one
 * (Lukáš & Fridrich 2003).
 */
function onSameGrid(
  patches: readonly Plane[],
  own: JpegFacts,
  grid: { x: number; y: number },
): number | null {
  const counts = WAVES.map(() => new Float64Array(2 * LEVELS + 1));
  for (const patch of patches) {
    eachWave(patch, grid, (wave, value) => {
      const level = Math.round(value / own.luma[WAVES[wave]!]!) + LEVELS;
      if (level >= 0 && level <= 2 * LEVELS) counts[wave]![level]!++;
    });
  }
  const smooth = counts.map(withoutGaps);
  const fits: { quality: number; fit: number }[] = [];
  // Steps come again at several qualities.
  const seen = new Map<number, Gaps | null>();
  const finest = Math.min(FINEST, (own.quality ?? 100) - 5);
  for (let quality = COARSEST; quality <= finest; quality++) {
    const table = tableAtQuality(STANDARD_LUMA, quality);
    const each = WAVES.map((wave, i) => {
      const step = table[wave]!;
      const known = seen.get(64 * step + wave);
      if (known !== undefined) return known;
      const gaps = gapsOf(counts[i]!, smooth[i]!, step / own.luma[wave]!);
      seen.set(64 * step + wave, gaps);
      return gaps;
    }).filter((gaps) => gaps !== null);
    if (each.length < TELL) continue;
    const sum = (of: (one: Gaps) => number) => each.reduce((all, one) => all + of(one), 0);
    const fit = sum(({ seen, apart }) => seen * apart) / sum(({ apart }) => apart * apart);
    fits.push({ quality, fit: Math.min(1, fit) });
  }
  const best = Math.max(0, ...fits.map(({ fit }) => fit));
  if (best < TWICE) return null;
  // Steps that divide the right ones fit as well: the coarsest of the good ones is meant, the best of those next to it.
  let at = fits.findIndex(({ fit }) => fit >= AS_GOOD * best);
  while (at + 1 < fits.length && fits[at + 1]!.fit > fits[at]!.fit) at++;
  return fits[at]!.quality;
}

/** By how much more often than after one compression levels lie near multiples, and by how much two would make them. */
interface Gaps {
  seen: number;
  apart: number;
}

/** The gaps that steps `ratio` times as coarse leave; null where nothing tells. */
function gapsOf(counts: Float64Array, smooth: Float64Array, ratio: number): Gaps | null {
  if (ratio < COARSER) return null;
  const sign = (level: number) => Math.cos((2 * Math.PI * level) / ratio);
  let [seen, count, once, usual] = [0, 0, 0, 0];
  for (let i = 0; i <= 2 * LEVELS; i++) {
    const level = i - LEVELS;
    if (Math.abs(level) < ratio / 2) continue;
    seen += counts[i]! * sign(level);
    count += counts[i]!;
    once += smooth[i]! * sign(level);
    usual += smooth[i]!;
  }
  if (count < ENOUGH || usual === 0) return null;
  let [twice, weight] = [0, 0];
  for (let multiple = ratio; Math.round(multiple) <= LEVELS; multiple += ratio) {
    const share = smooth[LEVELS + Math.round(multiple)]!;
    twice += share * sign(Math.round(multiple));
    weight += share;
  }
  if (weight === 0) return null;
  const [oneLeaves, twoLeave] = [once / usual, twice / weight];
  const apart = twoLeave - oneLeaves;
  return apart < APART ? null : { seen: seen / count - oneLeaves, apart };
}

/** How often levels would come if none were left out: both signs alike, by a line through the logarithms about each. */
function withoutGaps(counts: Float64Array): Float64Array {
  const both = Float64Array.from({ length: LEVELS + 1 }, (_, level) =>
    Math.log((counts[LEVELS + level]! + counts[LEVELS - level]!) / 2 + 0.5),
  );
  const smooth = new Float64Array(2 * LEVELS + 1);
  smooth[LEVELS] = counts[LEVELS]!;
  for (let level = 1; level <= LEVELS; level++) {
    const reach = Math.max(1, Math.round(level / 2));
    let [n, x, xx, y, xy] = [0, 0, 0, 0, 0];
    for (let at = Math.max(1, level - reach); at <= Math.min(LEVELS, level + reach); at++) {
      const weight = Math.exp(both[at]!);
      const apart = at - level;
      n += weight;
      x += weight * apart;
      xx += weight * apart * apart;
      y += weight * both[at]!;
      xy += weight * apart * both[at]!;
    }
    const spread = n * xx - x * x;
    const value = Math.exp(spread > 0 ? (xx * y - x * xy) / spread : y / n);
    smooth[LEVELS + level] = value;
    smooth[LEVELS - level] = value;
  }
  return smooth;
}

/** Waves that are looked at on all grids, as many of the picture's liveliest patches, and values up to this one. */
const FEW = WAVES.slice(0, 5);
const LIVELIEST = { from: 0.1, count: 24 } as const;
const REACH = 160;
const BINS = 2 * REACH + 1;
const GRIDS = 64;
/** The right grid stands out so far from the middle one of all, also in deviations of the others. */
const STANDS_OUT = { by: 0.12, deviations: 6 } as const;

/** On the right grid waves still lie near multiples of coarse steps; on all others they do not. */
function onOtherGrid(
  patches: readonly Plane[],
  own: JpegFacts,
  grid: { x: number; y: number },
): CompressedBefore | null {
  const counts = countsOnAllGrids(lively(patches));
  const ownGrid = 8 * grid.y + grid.x;
  let best = { by: 0, quality: 0, at: 0 };
  const seen = new Map<string, Float64Array | null>();
  for (let quality = COARSEST; quality <= Math.min(FINEST, (own.quality ?? 100) - 1); quality++) {
    const table = tableAtQuality(STANDARD_LUMA, quality);
    const told = FEW.flatMap((wave, i) => {
      const step = table[wave]!;
      if (step < COARSER * own.luma[wave]!) return [];
      const key = `${i} ${step}`;
      if (!seen.has(key)) seen.set(key, nearMultiples(counts[i]!, step));
      return seen.get(key) ?? [];
    });
    if (told.length < 2) continue;
    const fits = Float64Array.from({ length: GRIDS }, (_, at) =>
      told.reduce((sum, one) => sum + one[at]! / told.length, 0),
    );
    const found = standingOut(fits, ownGrid);
    if (found.by > best.by && found.deviations > STANDS_OUT.deviations) {
      best = { by: found.by, quality, at: found.at };
    }
  }
  if (best.by < STANDS_OUT.by) return null;
  return { quality: best.quality, x: best.at & 7, y: best.at >> 3 };
}

/** Patches of much change, but for those of the most. */
function lively(patches: readonly Plane[]): Plane[] {
  const all = patches.map((patch) => {
    const { luma } = patch;
    const mean = luma.reduce((sum, level) => sum + level, 0) / luma.length;
    return { patch, power: luma.reduce((sum, level) => sum + (level - mean) ** 2, 0) };
  });
  all.sort((a, b) => b.power - a.power);
  const from = Math.floor(LIVELIEST.from * all.length);
  return all.slice(from, from + LIVELIEST.count).map(({ patch }) => patch);
}

/** Of every wave: how often each rounded value comes in blocks of each of the 64 grids. */
function countsOnAllGrids(patches: readonly Plane[]): Float64Array[] {
  const counts = FEW.map(() => new Float64Array(GRIDS * BINS));
  for (const patch of patches) {
    let wave = 0;
    for (const values of wavesAnywhere(patch, FEW)) countByGrid(patch, values, counts[wave++]!);
  }
  return counts;
}

function countByGrid({ x, y, width, height }: Plane, values: Float64Array, counts: Float64Array) {
  for (let top = 0; top + 8 <= height; top++)
    for (let left = 0; left + 8 <= width; left++) {
      const bin = Math.round(values[top * width + left]!) + REACH;
      if (bin < 0 || bin >= BINS) continue;
      counts[(((y + top) & 7) * 8 + ((x + left) & 7)) * BINS + bin]!++;
    }
}

/** How near to multiples of a step values lie on each grid: 1 on them, 0 at random; null where there are too few. */
function nearMultiples(counts: Float64Array, step: number): Float64Array | null {
  const signs = Float64Array.from({ length: REACH + 1 }, (_, value) =>
    value < step / 2 ? 0 : Math.cos((2 * Math.PI * value) / step),
  );
  const fits = new Float64Array(GRIDS);
  for (let at = 0; at < GRIDS; at++) {
    const middle = at * BINS + REACH;
    let sum = 0;
    let count = 0;
    for (let value = Math.ceil(step / 2); value <= REACH; value++) {
      const here = counts[middle - value]! + counts[middle + value]!;
      sum += here * signs[value]!;
      count += here;
    }
    if (count < ENOUGH) return null;
    fits[at] = sum / count;
  }
  return fits;
}

/** The grid other than the file's own that stands out most: by how much, and in deviations of the middle eighty percent. */
function standingOut(
  fits: Float64Array,
  own: number,
): { at: number; by: number; deviations: number } {
  const sorted = Float64Array.from(fits).sort();
  const middle = sorted[GRIDS >> 1]!;
  const most = sorted.subarray(GRIDS / 10, (GRIDS * 9) / 10);
  const deviation = Math.sqrt(
    most.reduce((sum, fit) => sum + (fit - middle) ** 2, 0) / most.length,
  );
  let at = own === 0 ? 1 : 0;
  for (let i = 0; i < GRIDS; i++) if (i !== own && fits[i]! > fits[at]!) at = i;
  const by = fits[at]! - middle;
  return { at, by, deviations: by / (deviation + 0.01) };
}
