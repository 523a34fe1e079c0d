import type { Raster } from './raster';

/** Sides of the tile of thresholds: a power of two. */
export const TILE = 64;
const MASK = TILE - 1;

/** Where thresholds of one colour lie against those of another, so that their noise isn't grey. */
const SHIFTS = [
  { x: 0, y: 0 },
  { x: 23, y: 41 },
  { x: 47, y: 13 },
  { x: 11, y: 29 },
] as const;

/** How far from a whole level a threshold may be at most: what lies on one stays there. */
const MOST = 0.499;

let tile: Float64Array | undefined;
let thresholds: Float32Array | undefined;

/**
 * The same planes with thresholds of blue noise added, so that rounding to 8 bits keeps what is finer on the mean.
 * A pixel's thresholds follow from its place, whichever region it is read in. What is a whole level already stays.
 * @param at column and row of the raster's first pixel in its picture
 * @param levels of what it is rounded to, 255
 */
export function dithered(raster: Raster, at: { x: number; y: number }, levels = 255): Raster {
  thresholds ??= Float32Array.from(blueNoise(), (share) => (share - 0.5) * 2 * MOST);
  const levelled = thresholds.map((threshold) => threshold / levels);
  const { width, height, form } = raster;
  const planes = raster.planes.map((plane, channel) => {
    const alpha = form.alpha && channel === raster.planes.length - 1;
    if (alpha) return plane;
    const shift = SHIFTS[channel % SHIFTS.length]!;
    const out = new Float32Array(plane.length);
    const left = at.x + shift.x;
    for (let y = 0, i = 0; y < height; y++) {
      const row = ((at.y + y + shift.y) & MASK) * TILE;
      for (let x = 0; x < width; x++, i++) {
        out[i] = plane[i]! + levelled[row + ((left + x) & MASK)]!;
      }
    }
    return out;
  });
  return { ...raster, planes };
}

/** A tile of thresholds from 0 to 1, each once, in the order of a void-and-cluster pattern (Ulichney, 1993). */
export function blueNoise(): Float64Array {
  const count = TILE * TILE;
  tile ??= Float64Array.from(voidAndCluster(), (rank) => (rank + 0.5) / count);
  return tile;
}

/** Share of the tile that the first pattern covers. */
const FIRST = 0.1;

/** How near a point of the tile is, by its distances across and down, as the tile repeats. */
function nearness(): Float64Array {
  const near = new Float64Array(TILE * TILE);
  for (let y = 0; y < TILE; y++) {
    for (let x = 0; x < TILE; x++) {
      const dx = Math.min(x, TILE - x);
      const dy = Math.min(y, TILE - y);
      // A bell without exponentials, which engines compute differently.
      near[y * TILE + x] = 1 / (1 + (dx * dx + dy * dy) / 4.5) ** 4;
    }
  }
  return near;
}

/** Ranks of a tile's points, 0 first: those of any threshold lie as evenly as they can. */
function voidAndCluster(): Int32Array {
  const count = TILE * TILE;
  const near = nearness();
  const set = new Uint8Array(count);
  const density = new Float64Array(count);
  const put = (at: number, on: boolean) => {
    set[at] = on ? 1 : 0;
    const sign = on ? 1 : -1;
    const [ax, ay] = [at % TILE, Math.floor(at / TILE)];
    for (let y = 0, i = 0; y < TILE; y++) {
      const row = ((y - ay + TILE) % TILE) * TILE;
      for (let x = 0; x < TILE; x++, i++)
        density[i]! += sign * near[row + ((x - ax + TILE) % TILE)]!;
    }
  };
  /** the fullest of the points that are set, or the emptiest of those that aren't */
  const extreme = (on: boolean): number => {
    let best = -1;
    for (let i = 0; i < count; i++) {
      if ((set[i] === 1) !== on) continue;
      if (best < 0 || (on ? density[i]! > density[best]! : density[i]! < density[best]!)) best = i;
    }
    return best;
  };
  const first = Math.round(count * FIRST);
  // A start by chance that is the same everywhere.
  for (let placed = 0, seed = 1; placed < first;) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const at = seed >>> 20;
    if (set[at] === 1) continue;
    put(at, true);
    placed++;
  }
  for (;;) {
    const fullest = extreme(true);
    put(fullest, false);
    const emptiest = extreme(false);
    put(emptiest, true);
    if (emptiest === fullest) break;
  }
  const ranks = new Int32Array(count);
  const begun = Uint8Array.from(set);
  for (let rank = first - 1; rank >= 0; rank--) {
    const fullest = extreme(true);
    put(fullest, false);
    ranks[fullest] = rank;
  }
  begun.forEach((on, at) => on && put(at, true));
  for (let rank = first; rank < count; rank++) {
    const emptiest = extreme(false);
    put(emptiest, true);
    ranks[emptiest] = rank;
  }
  return ranks;
}
