import { percentile } from './patches';
import { transformOf } from './transform';

/** Frequencies are told apart so finely: one in so many pixels. */
const FINENESS = 2048;
/** Of a longer side so much is looked at, in pixels; of a shorter one nothing is told. */
const MOST = 2048;
const LEAST = 160;
/** Frequencies below this, in periods a pixel, are the picture's own; above a half there are none. */
const LOWEST = 0.2;
/** Columns are compared with the mean of so many to either side. */
const ABOUT = 8;
/** Peaks of compression lie at multiples of one in eight pixels, this close, or as close as so many pixels tell. */
const BLOCKS = 8;
const NEAR = 0.004;
const LOBE = 1.5;
/** A peak stands so many times above the middle of all … */
const STANDS_OUT = 12;
/** … and twofold enlargement, whose peak is one of compression's as well, so many times above those. */
const ABOVE_BLOCKS = 1.4;
/** Both sides were enlarged alike: their peaks lie so near to each other. */
const ALIKE = 0.003;

/**
 * By how much a picture was enlarged before, from a quarter as much again upward: what was put between pixels is smoother
 * than they are, in a rhythm that both sides have (Gallagher 2005). Twofold and more is told after JPEG down to about quality 75,
 * less only of better files; fourfold not at all after compression, whose own rhythm is that.
 * @param across,down the periodicities of its columns and rows
 * @param resolution share of the finest frequency that carries detail, which tells apart what has the same rhythm
 * @returns times as large, or null where nothing tells
 */
export function enlargedBefore(
  across: number | null,
  down: number | null,
  resolution: number | null,
): number | null {
  if (resolution === null || across === null || down === null) return null;
  if (Math.abs(across - down) > ALIKE) return null;
  const frequency = (across + down) / 2;
  // What was enlarged by 3 and by 1.5 has the same rhythm: of the sizes it may have had, detail tells.
  const [large, small] = [1 / frequency, 1 / (1 - frequency)];
  const between = USUAL / Math.sqrt(large * small);
  if (large > DIFFERENT * small && Math.abs(resolution / between - 1) < UNSURE) return null;
  const factor = resolution < between ? large : small;
  return resolution <= REACH / factor ? factor : null;
}

/** Detail, as it is measured, goes so far beyond what a picture had before it was enlarged: mostly, and at most. */
const USUAL = 1.05;
const REACH = 1.5;
/** So near to what lies between two sizes nothing is said, where they differ by so much. */
const UNSURE = 0.08;
const DIFFERENT = 1.15;

/**
 * The frequency at which columns (or rows) bend more and less, in periods a pixel, or null where there is none.
 * @param bends how much each bends, on the mean, whatever the unit
 */
export function periodicityOf(bends: Float64Array): number | null {
  if (bends.length < LEAST) return null;
  const start = Math.max(0, (bends.length - MOST) >> 1);
  const values = withoutSlow(bends.subarray(start + 1, Math.min(bends.length - 1, start + MOST)));
  const first = Math.ceil(LOWEST * FINENESS);
  const [re, im] = [new Float64Array(FINENESS), new Float64Array(FINENESS)];
  re.set(values);
  transform(re, im);
  const powers = Array.from({ length: FINENESS / 2 - first + 1 }, (_, i) => ({
    frequency: (first + i) / FINENESS,
    strength: Math.hypot(re[first + i]!, im[first + i]!),
  }));
  const near = Math.max(NEAR, LOBE / values.length);
  const usual = percentile(
    powers.map(({ strength }) => strength),
    0.5,
  );
  const isBlock = ({ frequency }: { frequency: number }) =>
    Math.abs(frequency * BLOCKS - Math.round(frequency * BLOCKS)) < near * BLOCKS;
  const blocks = powers.filter((one) => isBlock(one) && one.frequency < 0.5 - near);
  const strongest = (list: readonly { frequency: number; strength: number }[]) =>
    list.reduce((best, one) => (one.strength > best.strength ? one : best), {
      ...{ frequency: 0, strength: 0 },
    });
  const twofold = strongest(powers.filter(({ frequency }) => frequency >= 0.5 - near));
  const free = strongest(powers.filter((one) => !isBlock(one)));
  if (
    twofold.strength > free.strength &&
    twofold.strength > STANDS_OUT * usual &&
    twofold.strength > ABOVE_BLOCKS * strongest(blocks).strength
  ) {
    return 0.5;
  }
  return free.strength > STANDS_OUT * usual ? free.frequency : null;
}

const transform = transformOf(FINENESS);

/** Values less the mean of those about them. */
export function withoutSlow(values: Float64Array): Float64Array {
  return values.map((value, i) => {
    const about = values.subarray(Math.max(0, i - ABOUT), i + ABOUT + 1);
    return value - about.reduce((sum, one) => sum + one, 0) / about.length;
  });
}
