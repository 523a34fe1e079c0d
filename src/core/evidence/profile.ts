/** What a line across an edge shows. */
export interface Rise {
  /** from 10 to 90 % of the climb, in samples of the line */
  width: number;
  /** how far it goes beyond both grounds, in % of the climb */
  overshoot: { light: number; dark: number };
  /** from one ground to the other, on the scale of the line's values */
  climb: number;
}

/** Parts of a sample's width in which a level is looked for. */
const FINER = 8;

/** The share of a line, at either end, that is taken for ground. */
const GROUND = 0.25;

/**
 * Rise and overshoot of values along a line that crosses one edge: from 10 to 90 % about the steepest place, between
 * samples, and what lies beyond the medians of both ends (after ISO 12233's edge profile, without its slant).
 * @returns null where the line is shorter than eight samples or climbs by less than `least`
 */
export function riseOf(line: ArrayLike<number>, least: number): Rise | null {
  const { length } = line;
  if (length < 8) return null;
  const ground = Math.max(2, Math.round(length * GROUND));
  const first = median(line, 0, ground);
  const last = median(line, length - ground, length);
  const climb = Math.abs(last - first);
  if (!(climb >= least)) return null;
  const falls = last < first;
  const dark = Math.min(first, last);
  /** 0 at the dark ground, 1 at the light one, rising along the line */
  const at = (i: number) => (line[falls ? length - 1 - i : i]! - dark) / climb;
  let steepest = 0;
  for (let i = 0; i + 1 < length; i++) {
    if (at(i + 1) - at(i) > at(steepest + 1) - at(steepest)) steepest = i;
  }
  // Outward from there: what swings farther off belongs to no rise.
  let low = steepest;
  while (low > 0 && at(low) > 0.1) low--;
  let high = steepest + 1;
  while (high < length - 1 && at(high) < 0.9) high++;
  const value = (i: number) => at(Math.min(length - 1, Math.max(0, i)));
  /** Where the curve through the samples passes a level between two of them (Catmull & Rom 1974). */
  const crossing = (i: number, level: number) => {
    const [before, from, to, behind] = [value(i - 1), value(i), value(i + 1), value(i + 2)];
    const curve = (t: number) =>
      from +
      (t / 2) *
        (to -
          before +
          t * (2 * before - 5 * from + 4 * to - behind + t * (3 * (from - to) + behind - before)));
    for (let step = 0; step < FINER; step++) {
      const [a, b] = [curve(step / FINER), curve((step + 1) / FINER)];
      if (a <= level && b >= level && b > a) return i + (step + (level - a) / (b - a)) / FINER;
    }
    return from >= level ? i : i + 1;
  };
  let lightest = 1;
  let darkest = 0;
  for (let i = 0; i < length; i++) {
    lightest = Math.max(lightest, at(i));
    darkest = Math.min(darkest, at(i));
  }
  return {
    width: Math.max(0, crossing(high - 1, 0.9) - crossing(low, 0.1)),
    overshoot: { light: 100 * (lightest - 1), dark: -100 * darkest },
    climb,
  };
}

/** A line has turned back where it went so much of its whole range the other way; rings beside an edge go less far. */
const BACK = 0.5;

/**
 * The part of a line that crosses its steepest edge and no other: as far to either side as it doesn't turn back. A line
 * across one edge is that part itself.
 */
export function steepestEdge(line: Float32Array): Float32Array {
  const { length } = line;
  let steepest = 0;
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < length; i++) {
    least = Math.min(least, line[i]!);
    most = Math.max(most, line[i]!);
    if (i + 1 < length && slope(line, i) > slope(line, steepest)) steepest = i;
  }
  if (!(most > least)) return line;
  const back = BACK * (most - least);
  const rises = line[steepest + 1]! > line[steepest]!;
  /** How far the line goes on from the edge, up or down, before it has turned back. */
  const reach = (from: number, by: 1 | -1, up: boolean): number => {
    const value = (i: number) => (up ? line[i]! : -line[i]!);
    let [extreme, at] = [-Infinity, from];
    for (let i = from; i >= 0 && i < length; i += by) {
      if (extreme - value(i) >= back) return at;
      // The last of a level ground, not the first.
      if (value(i) >= extreme - back / 4) at = i;
      extreme = Math.max(extreme, value(i));
    }
    return by > 0 ? length - 1 : 0;
  };
  const first = reach(steepest, -1, !rises);
  const last = reach(steepest + 1, 1, rises);
  return line.subarray(first, last + 1);
}

const slope = (line: Float32Array, i: number): number => Math.abs(line[i + 1]! - line[i]!);

function median(values: ArrayLike<number>, from: number, to: number): number {
  const sorted = Float64Array.from({ length: to - from }, (_, i) => values[from + i]!).sort();
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
