import { percentile, type Patch } from './patches';

/** An edge is hard from this difference on, in levels over two pixels … */
const HARD = 40;
/** … and its sides must differ by as much, so far from it. */
const ROOM = 8;
/** Both sides are plain: over their last pixels they change by no more than this share of the edge. */
const PLAIN = 0.12;
const SIDE = 3;
/** Rims are looked for from half a pixel off the middle of an edge on, in so many steps of half a pixel. */
const STEPS = 8;
/** Fewer edges tell nothing. */
const EDGES = 40;

/** What earlier sharpening left along hard edges. */
export interface Rims {
  /** how far they go beyond both sides, as a share of the edge */
  beyond: number;
  /** how far off the middle of an edge they lie on the mean, in pixels; null where there are none to speak of */
  reach: number | null;
}

/** Rims of less of an edge have no place that could be told. */
const TOLD = 0.03;
/** Of a rim less than this share of its most is noise. */
const FLOOR = 0.3;

/**
 * Rims along hard edges, how strong they are and how far they reach: what earlier sharpening left. The profile
 * across an edge is the median of all edges that have plain ground on both sides, so that noise and compression
 * cancel.
 * @returns null where there are too few such edges
 */
export function measureRims(patches: readonly Patch[]): Rims | null {
  const profiles: Float32Array[] = [];
  for (const { luma, width, height } of patches) {
    const line = (start: number, stride: number, count: number) => {
      for (let i = ROOM + 1; i < count - ROOM - 1; i++) {
        const at = start + i * stride;
        const rise = luma[at + stride]! - luma[at - stride]!;
        if (Math.abs(rise) < HARD) continue;
        // Only the crest of an edge counts, once.
        if (Math.abs(rise) < Math.abs(luma[at + 2 * stride]! - luma[at]!)) continue;
        if (Math.abs(rise) < Math.abs(luma[at]! - luma[at - 2 * stride]!)) continue;
        const found = profileAt(luma, at, rise > 0 ? stride : -stride);
        if (found) profiles.push(found);
      }
    };
    for (let y = 0; y < height; y++) line(y * width, 1, width);
    for (let x = 0; x < width; x++) line(x, width, height);
  }
  if (profiles.length < EDGES) return null;
  const middle = Array.from({ length: 2 * STEPS }, (_, k) =>
    Math.max(
      0,
      percentile(
        profiles.map((profile) => profile[k]!),
        0.5,
      ),
    ),
  );
  const sides = [middle.slice(0, STEPS), middle.slice(STEPS)];
  const beyond = sides.reduce((sum, side) => sum + Math.max(...side) / 2, 0);
  let [sum, far] = [0, 0];
  for (const side of sides) {
    const floor = FLOOR * Math.max(...side);
    side.forEach((value, k) => {
      sum += Math.max(0, value - floor);
      far += (Math.max(0, value - floor) * (k + 1)) / 2;
    });
  }
  return { beyond, reach: beyond < TOLD ? null : far / sum };
}

/**
 * How far an edge goes beyond its light side, step by step from its middle on, then beyond its dark one, as shares of
 * the edge; null where a side is not plain.
 */
function profileAt(luma: Float32Array, at: number, stride: number): Float32Array | null {
  const side = (from: number) => {
    let [sum, least, most] = [0, Infinity, -Infinity];
    for (let k = from; k < from + SIDE; k++) {
      const value = luma[at + k * stride]!;
      sum += value / SIDE;
      least = Math.min(least, value);
      most = Math.max(most, value);
    }
    return { level: sum, spread: most - least };
  };
  const dark = side(-ROOM);
  const light = side(ROOM - SIDE + 1);
  const step = light.level - dark.level;
  if (step < HARD || Math.max(dark.spread, light.spread) > PLAIN * step) return null;
  const valueAt = (place: number): number => {
    const k = Math.floor(place);
    const from = luma[at + k * stride]!;
    const value = from + (place - k) * (luma[at + (k + 1) * stride]! - from);
    return (value - dark.level) / step;
  };
  // Where it passes the middle, between two pixels.
  let k = -2;
  while (k < 2 && valueAt(k + 1) < 0.5) k++;
  const [before, after] = [valueAt(k), valueAt(k + 1)];
  if (before >= 0.5 || after < 0.5) return null;
  const middle = k + (0.5 - before) / (after - before);
  return Float32Array.from({ length: 2 * STEPS }, (_, i) => {
    const off = ((i % STEPS) + 1) / 2;
    return i < STEPS ? valueAt(middle + off) - 1 : -valueAt(middle - off);
  });
}
