import { aboveUnrest, percentile } from './patches';
import { strengthAt } from './transform';

/** Where cells of one side begin: each `span` pixels after the one before, one of them at `first`. */
export interface Comb {
  /** pixels a cell, a whole number or not */
  span: number;
  /** the first border, from 0 up to `span` */
  first: number;
  /** of all strong change, how much more lies on borders than chance would put there, 0–1 */
  share: number;
  /** share of the borders that carry some change: of a comb that is too fine, fewer */
  used: number;
}

/** Spans that are looked for, in pixels. */
const LEAST_SPAN = 1.9;
const MOST_SPAN = 64;
/** On fewer pixels change lies on a comb by chance. */
const LEAST_SIDE = 24;
/** So many cells at least tell of a comb. */
const LEAST_CELLS = 4;
/** Of a longer side so much is looked at first, in pixels. */
const FIRST = 512;
/** How strong the change is at a comb's frequency, over all change, where it is worth a closer look. */
const HOPEFUL = 0.5;
/** Change of fewer levels than this, on the mean, tells nothing. */
const LEAST_CHANGE = 0.02;
/** Some cells are alike: of the borders so many carry some of what they would carry on the mean. */
const USED = 0.3;
const SOME = 0.05;

/**
 * The comb on which most of the change along a side of a picture lies, wherever its first cell begins; null where there is
 * none.
 * @param steps how much every column (or row) differs from the one before, in levels on the mean
 */
export function combOf(steps: Float64Array): Comb | null {
  if (steps.length < LEAST_SIDE) return null;
  const change = aboveUnrest(steps);
  const start = Math.max(0, (change.length - FIRST) >> 1);
  const some = change.subarray(start, start + FIRST);
  const sum = total(some);
  if (sum / some.length < LEAST_CHANGE) return null;
  let best: Comb | null = null;
  const most = Math.min(MOST_SPAN, some.length / LEAST_CELLS);
  // A comb of more borders than that would be used by too few of them.
  const least =
    (USED * some.length) / some.reduce((count, value) => count + (value > 0 ? 1 : 0), 0);
  for (
    let span = Math.max(LEAST_SPAN, least);
    span <= most;
    span += (span * span) / (6 * some.length)
  ) {
    if (strengthAt(some, 1 / span) < HOPEFUL * sum) continue;
    const comb = combAbout(some, span);
    if (comb && (!best || worth(comb) > worth(best))) best = comb;
  }
  return best && combAbout(change, best.span);
}

/** How well a comb explains the change. */
const worth = ({ share, used }: Comb): number => share * used;
/** Cells are whole pixels unless that explains less than so much of it. */
const AS_WELL = 0.95;

/** The comb of a span about one: over many cells even a small part of a pixel leads off their borders. */
function combAbout(change: Float64Array, about: number): Comb | null {
  const span = refined(change, about);
  const comb = combAt(change, span);
  const whole = Math.round(span);
  if (Math.abs(span - whole) >= (whole * whole) / (2 * change.length) + 1e-9) return comb;
  const even = combAt(change, whole);
  return even && (!comb || worth(even) >= AS_WELL * worth(comb)) ? even : comb;
}

const total = (values: Float64Array): number => values.reduce((sum, value) => sum + value, 0);

/** The span about one that is strongest. */
function refined(change: Float64Array, span: number): number {
  const { length } = change;
  const near = (span * span) / (2 * Math.min(FIRST, length));
  let best = span;
  let strongest = 0;
  for (let at = span - near; at <= span + near; at += (span * span) / (12 * length)) {
    const strength = strengthAt(change, 1 / at);
    if (strength > strongest) [best, strongest] = [at, strength];
  }
  return best;
}

/** Cells begin at whole pixels; spans that aren't whole are tried so often a pixel. */
const OFFSETS = 4;

/** The comb of a span, with the first border that suits it best; null where most of its borders carry nothing. */
function combAt(change: Float64Array, span: number): Comb | null {
  const { length } = change;
  const sum = total(change);
  const step = Number.isInteger(span) ? 1 : 1 / OFFSETS;
  let [first, most] = [0, -1];
  for (let begins = 0; begins < span; begins += step) {
    let on = 0;
    for (let at = begins + 0.5; at < length; at += span) on += change[at | 0]!;
    if (on > most) [first, most] = [begins, on];
  }
  let [used, all] = [0, 0];
  const least = (SOME * sum * span) / length;
  for (const border of borders(length, span, first)) {
    all++;
    if (change[border]! > least) used++;
  }
  if (used < USED * all || sum === 0) return null;
  const chance = 1 / span;
  const share = (most / sum - chance) / (1 - chance);
  return { span, first, share, used: used / all };
}

/** The pixels at which cells begin. */
function borders(length: number, span: number, first: number): number[] {
  const found: number[] = [];
  for (let at = first; at + 0.5 < length; at += span) {
    const border = Math.floor(at + 0.5);
    if (border > 0) found.push(border);
  }
  return found;
}

/** How much columns (or rows) change within cells over how much at their borders, by the middle ones of both. */
export function unrest({ span, first }: Pick<Comb, 'span' | 'first'>, steps: Float64Array): number {
  const at = new Set(borders(steps.length, span, first));
  const inside = steps.filter((_, i) => i > 0 && !at.has(i));
  const outside = steps.filter((_, i) => at.has(i));
  return percentile(inside, 0.5) / Math.max(1e-9, percentile(outside, 0.5));
}
