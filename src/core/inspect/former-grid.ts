import { withoutSlow } from './enlarged-before';
import { percentile } from './patches';
import { hann, transformOf } from './transform';

/** Columns (or rows) in the middle that are looked at, and the fewest that tell anything. */
const MOST = 2048;
const LEAST = 160;
/** Frequencies are told apart so finely: one in so many pixels. */
const FINENESS = 1 << 15;
const HALF = FINENESS / 2;
/** Columns differ by so many times the usual at most. */
const FARTHEST = 5;
/** Where columns differ by less, as a logarithm, a pattern was drawn: photographs' differ by twice that and more. */
const DRAWN = 0.01;
/** Slower than this, in periods a pixel, is the picture itself. */
const SLOWEST = 0.035;
/** A frequency counts up to so many times the usual, so that one pattern alone is no grid. */
const STRONGEST = 12;
/** Blocks of compression that was not enlarged lie at multiples of one in eight pixels, this close, or as close as so many pixels tell. */
const BLOCK = 8;
const NEAR = 0.003;
const LOBE = 1.6;
/** Sides of former blocks that are looked for, in pixels, each so much larger than the one before. */
const SIDES = { least: 8.4, most: 23, step: 0.0005 } as const;
const HARMONICS = 4;
/** Where a block begins is sought at so many places to its side. */
const PLACES = 24;
/** Columns and rows each show a grid by so much at least, at sides so few steps apart. */
const SHOWS = 8;
/** … less where the rhythm that columns have is a multiple of the grid's, this near. */
const SUPPORTED = 5;
const MULTIPLE = 0.03;
const ALIKE = 6;
/** Odd multiples of a grid's frequency are sought this near to where they would be, and are so strong on the mean. */
const ODD_NEAR = 0.003;
const OWN = 4;

const sides = Array.from(
  { length: Math.ceil(Math.log(SIDES.most / SIDES.least) / SIDES.step) },
  (_, i) => SIDES.least * Math.exp(i * SIDES.step),
);
/** Cosines and sines of how far every harmonic has turned, place by place. */
const turns = Float64Array.from({ length: PLACES * HARMONICS * 2 }, (_, i) => {
  const h = (i >> 1) % HARMONICS;
  const turn = (2 * Math.PI * (h + 1) * Math.floor(i / (2 * HARMONICS))) / PLACES;
  return i % 2 === 0 ? Math.cos(turn) : Math.sin(turn);
});

/** How regular the bends of columns (or rows) are. */
export interface Regularity {
  /** how strong each frequency is, of the usual one */
  strengths: Float64Array;
  /** how much a grid of each side shows */
  shows: Float64Array;
}

/**
 * What comes back regularly in how much columns (or rows) bend.
 * @param bends as patches.ts gathers them
 * @returns null where there are too few, or they hardly differ
 */
export function regularityOf(bends: Float64Array): Regularity | null {
  const start = Math.max(0, (bends.length - MOST) >> 1);
  const values = held(bends.subarray(start + 1, Math.min(bends.length - 1, start + MOST)));
  if (!values) return null;
  const [re, im] = [new Float64Array(FINENESS), new Float64Array(FINENESS)];
  const window = hann(values.length);
  values.forEach((value, i) => (re[i] = value * window[i]!));
  transform(re, im);
  const strengths = new Float64Array(HALF + 1);
  for (let f = 0; f <= HALF; f++) strengths[f] = Math.hypot(re[f]!, im[f]!);
  const usual = percentile(strengths.subarray(Math.ceil(SLOWEST * FINENESS), HALF), 0.5) + 1e-12;
  const near = Math.max(NEAR, LOBE / values.length);
  for (let f = 0; f <= HALF; f++) {
    strengths[f]! /= usual;
    const frequency = f / FINENESS;
    const off = Math.abs(frequency * BLOCK - Math.round(frequency * BLOCK));
    const left =
      frequency < SLOWEST || off < near * BLOCK
        ? 0
        : Math.min(1, STRONGEST / Math.max(strengths[f]!, 1e-9)) / usual;
    re[f]! *= left;
    im[f]! *= left;
  }
  return { strengths, shows: Float64Array.from(sides, (side) => shownBy(re, im, side)) };
}

/** How much more columns bend where blocks of a side meet, at the place where they do so most. */
function shownBy(re: Float64Array, im: Float64Array, side: number): number {
  const waves = new Float64Array(2 * HARMONICS);
  for (let h = 0; h < HARMONICS; h++) {
    const f = Math.round(((h + 1) * FINENESS) / side);
    if (f > HALF - 30) break;
    waves[2 * h] = re[f]!;
    waves[2 * h + 1] = im[f]!;
  }
  let most = 0;
  for (let at = 0; at < turns.length; at += waves.length) {
    let sum = 0;
    for (let i = 0; i < waves.length; i++) sum += waves[i]! * turns[at + i]!;
    if (sum > most) most = sum;
  }
  return most / 2;
}

/** Whether blocks of another side show, so that the other axis is worth a look. */
export const showsBlocks = ({ shows }: Regularity): boolean => Math.max(...shows) >= SHOWS;

/**
 * By how much a picture was enlarged after it had been a JPEG, by the grid of larger blocks that it has left.
 * @param rhythm of how columns bend, in periods a pixel (enlarged-before.ts), or null
 * @returns times as large, or null where nothing tells
 */
export function enlargedSinceBlocks(
  across: Regularity,
  down: Regularity,
  rhythm: number | null = null,
): number | null {
  const both = sides.map((_, i) => across.shows[i]! + down.shows[i]!);
  let at = 0;
  for (let i = 0; i < both.length; i++) if (both[i]! > both[at]!) at = i;
  const about = (shows: Float64Array) =>
    Math.max(...shows.subarray(Math.max(0, at - ALIKE), at + ALIKE + 1));
  const side = sides[at]!;
  const supported =
    rhythm !== null &&
    Math.abs(rhythm * side - Math.round(rhythm * side)) < MULTIPLE &&
    [across, down].every((one) => othersOf(one, side, rhythm) > OWN);
  const least = supported ? SUPPORTED : SHOWS;
  if (Math.min(about(across.shows), about(down.shows)) < least) return null;
  const own = (one: number) => Math.min(oddOf(across, one), oddOf(down, one));
  // A grid shows at twice its side too, though nothing comes back as seldom as that; and at half of it.
  const isDouble = 2 * side < SIDES.most && own(2 * side) > OWN;
  const isHalf = side / 2 > SIDES.least && own(side) < OWN;
  return (isDouble ? 2 * side : isHalf ? side / 2 : side) / BLOCK;
}

/** How strong a frequency is, or one next to it. */
function strengthNear({ strengths }: Regularity, frequency: number): number {
  const f = Math.round(frequency * FINENESS);
  const near = Math.ceil(f * ODD_NEAR);
  return Math.max(...strengths.subarray(f - near, f + near + 1));
}

/** How strong the slowest multiples of a grid's frequency are but for the rhythm itself and what unenlarged blocks have. */
function othersOf(one: Regularity, side: number, rhythm: number): number {
  const others = [1, 2, 3, 4, 5, 6, 7]
    .map((times) => times / side)
    .filter((f) => {
      const block = Math.abs(f * BLOCK - Math.round(f * BLOCK)) / BLOCK;
      return f < 0.5 - NEAR && Math.abs(f - rhythm) > 2 * NEAR && block > 2 * NEAR;
    })
    .slice(0, 3);
  if (others.length === 0) return 0;
  return others.reduce((sum, f) => sum + strengthNear(one, f), 0) / others.length;
}

/** How strong the odd multiples of a grid's frequency are, which one of half its side has not. */
const oddOf = (one: Regularity, side: number): number =>
  (strengthNear(one, 1 / side) + strengthNear(one, 3 / side)) / 2;

const transform = transformOf(FINENESS);

/** Values without what changes slowly, none too far from the rest; null where there are too few, or they hardly differ. */
function held(values: Float64Array): Float64Array | null {
  if (values.length < LEAST) return null;
  const apart = withoutSlow(values);
  const middle = percentile(apart, 0.5);
  const usual = percentile(
    apart.map((value) => Math.abs(value - middle)),
    0.5,
  );
  if (usual < DRAWN) return null;
  const most = FARTHEST * usual;
  return apart.map((value) => Math.min(most, Math.max(-most, value - middle)));
}
