import type { Blur } from './findings';
import { RINGS, ringsOf, WAVES, WINDOW_POWER } from './mean-power';
import { discIn } from './out-of-focus';
import { PATCH } from './patches';

/** Frequencies that are looked at, in periods a pixel: below them subjects differ, above them noise and compression. */
const LOWEST = 3 / PATCH;
const HIGHEST = 0.42;
/** Noise that is reckoned with at least, in levels: rounding and what compression leaves. */
const LEAST_NOISE = 0.5;
/** What a sharp picture shows, as the standard deviation of a Gaussian in pixels; from where on it may be blurred, and surely is. */
const SHARP = 0.45;
const BLURRED = { maybe: 0.64, surely: 0.8 } as const;
/** Which of both axes counts: subjects have a direction too, which makes the longer one longer. */
const OF_LONGER = 0.3;
/** A Gaussian's edge rises over so many of its standard deviations: the root of 2 pi. */
const RISE = 2.5;
/** Motions that are looked for: lengths in pixels, and directions in degrees. */
const LENGTHS = [3, 3.5, 4, 4.5, 5, 5.5, 6, 6.5, 7, 7.5, 8, 9, 10, 11, 12];
/** Longer ones are mostly a subject's own pattern: none is told then. */
const SURE_LENGTH = 8;
const DIRECTION = 5;
/** So much more variance than across it a motion leaves along it, in pixels squared: sharp pictures differ by 0.7 at most. */
const MOVED = 0.75;
/** A motion must leave so little of what an even blur leaves unexplained, and of what the subjects' own direction does. */
const LEFT = { ofEven: 0.65, ofDirection: 0.75 } as const;
/** Between its waves a motion leaves this share of power, as far as subjects and windows let it be seen. */
const BETWEEN = 0.02;

/**
 * Blur from the mean spectrum of patches: the power of subjects falls with the square of the frequency (Field 1987), a
 * Gaussian takes exp(-4 pi^2 s^2 f^2) of it away; the covariance that remains is found by least squares. A motion
 * leaves sinc^2 of its length along its direction, which is sought among all of them.
 * @param power the mean power of patches
 * @param noise standard deviation of luminance noise, levels
 * @returns null where too little stands out to judge by
 */
export function measureBlur(power: Float64Array, noise: number): Blur | null {
  const spectrum = above(power, noise);
  const axes = fitted(spectrum.filter(({ seen }) => seen));
  if (!axes) return null;
  const { across, along } = axes;
  const measured = widthOf(axes);
  // A subject's own pattern may look like a motion's waves, but takes nothing away along one direction alone.
  const motion = along - across < MOVED ? null : motionIn(spectrum, axes.fit);
  const disc = motion ? null : discIn(power);
  return {
    ...{ width: RISE * measured, sigma: beyondSharp(measured), motion },
    disc: disc === null ? null : { radius: disc },
  };
}

/** Pixels that sharp edges take to rise, by the same; null where too little stands out to judge by. */
export function edgesRiseOver(power: Float64Array, noise: number): number | null {
  const axes = fitted(above(power, noise).filter(({ seen }) => seen));
  return axes && RISE * widthOf(axes);
}

/** The standard deviation that counts of a blur with two variances. */
const widthOf = ({ across, along }: { across: number; along: number }): number =>
  Math.sqrt(Math.max(0, (1 - OF_LONGER) * across + OF_LONGER * along));

/** What is left of a measured blur once a sharp picture's own is taken off, and doubt. */
function beyondSharp(measured: number): number {
  const { maybe, surely } = BLURRED;
  const sure = Math.min(1, Math.max(0, (measured - maybe) / (surely - maybe)));
  return sure * Math.sqrt(Math.max(0, measured * measured - SHARP * SHARP));
}

/** The finest frequency as far as which rings of the spectrum have more than a power, in periods a pixel. */
function lastAbove(power: Float64Array, least: number): number {
  const rings = ringsOf(power);
  let last = 1;
  while (last < RINGS && rings[last + 1]! > least) last++;
  return last / PATCH;
}

/** A frequency of the spectrum. */
interface Wave {
  /** periods a pixel, across and down */
  fx: number;
  fy: number;
  /** its weight: every ring alike */
  weight: number;
  /** log of power x f^2, which an even subject would have alike everywhere */
  log: number;
  /** whether it stands out from noise */
  seen: boolean;
}

/** The frequencies as far as subjects stand out from noise. */
function above(power: Float64Array, noise: number): Wave[] {
  const floor = WINDOW_POWER * noise * noise;
  const least = WINDOW_POWER * Math.max(LEAST_NOISE, noise) ** 2;
  const highest = Math.min(HIGHEST, lastAbove(power, floor + least));
  const waves: Wave[] = [];
  for (let v = 0; v < PATCH; v++)
    for (let u = 0; u < WAVES; u++) {
      const [fx, fy] = [u / PATCH, (v < PATCH / 2 ? v : v - PATCH) / PATCH];
      const f = Math.hypot(fx, fy);
      if (f < LOWEST || f > highest) continue;
      const here = power[v * WAVES + u]! - floor;
      const log = Math.log(Math.max(here, least / 4) * f * f);
      waves.push({ fx, fy, weight: 1 / f, log, seen: here >= least / 4 });
    }
  return waves;
}

const GAUSSIAN = -4 * Math.PI * Math.PI;

/** Variances of the Gaussian across and along its longer axis, in pixels squared, and how its log differs from an even one's. */
function fitted(waves: readonly Wave[]) {
  if (waves.length < 40) return null;
  // Normal equations of log = c - 4 pi^2 (xx fx^2 + 2 xy fx fy + yy fy^2).
  const sums = Array.from({ length: 4 }, () => [0, 0, 0, 0, 0]);
  for (const { fx, fy, weight, log } of waves) {
    const row = [1, GAUSSIAN * fx * fx, GAUSSIAN * 2 * fx * fy, GAUSSIAN * fy * fy, log];
    for (let i = 0; i < 4; i++)
      for (let j = 0; j < 5; j++) sums[i]![j]! += weight * row[i]! * row[j]!;
  }
  const solved = solve(sums);
  if (!solved) return null;
  const [, xx, xy, yy] = solved as [number, number, number, number];
  const middle = (xx + yy) / 2;
  const apart = Math.hypot((xx - yy) / 2, xy);
  const fit = ({ fx, fy }: Wave) =>
    GAUSSIAN * ((xx - middle) * fx * fx + 2 * xy * fx * fy + (yy - middle) * fy * fy);
  return { across: middle - apart, along: middle + apart, fit };
}

/** The motion that explains a spectrum best, where it explains enough of it. */
function motionIn(waves: readonly Wave[], direction: (wave: Wave) => number): Blur['motion'] {
  if (waves.length < 200) return null;
  const most = Math.min(
    LEFT.ofEven * unexplained(waves, () => 0),
    LEFT.ofDirection * unexplained(waves, direction),
  );
  let best = { rest: most, motion: null as Blur['motion'] };
  for (let angle = 0; angle < 180; angle += DIRECTION) {
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    for (const length of LENGTHS) {
      const rest = unexplained(waves, ({ fx, fy }) => {
        const phase = Math.PI * length * (fx * cos + fy * sin);
        const sinc = Math.abs(phase) < 1e-6 ? 1 : Math.sin(phase) / phase;
        return Math.log(sinc * sinc + BETWEEN);
      });
      if (rest < best.rest) best = { rest, motion: { length, angle } };
    }
  }
  return best.motion && best.motion.length <= SURE_LENGTH ? best.motion : null;
}

/** What of a spectrum is left once something and the even blur that fits best beside it are taken off. */
function unexplained(waves: readonly Wave[], of: (wave: Wave) => number): number {
  let [n, x, xx, y, xy, yy] = [0, 0, 0, 0, 0, 0];
  for (const wave of waves) {
    const { fx, fy, weight, log } = wave;
    const square = fx * fx + fy * fy;
    const rest = log - of(wave);
    n += weight;
    x += weight * square;
    xx += weight * square * square;
    y += weight * rest;
    xy += weight * square * rest;
    yy += weight * rest * rest;
  }
  const slope = Math.min(0, (xy - (x * y) / n) / (xx - (x * x) / n));
  const level = (y - slope * x) / n;
  return (
    yy -
    2 * slope * xy -
    2 * level * y +
    slope * slope * xx +
    2 * slope * level * x +
    level * level * n
  );
}

/** Four linear equations, by elimination with pivots; null where they don't determine anything. */
function solve(rows: number[][]): number[] | null {
  for (let i = 0; i < 4; i++) {
    let best = i;
    for (let k = i + 1; k < 4; k++) {
      if (Math.abs(rows[k]![i]!) > Math.abs(rows[best]![i]!)) best = k;
    }
    [rows[i], rows[best]] = [rows[best]!, rows[i]!];
    const pivot = rows[i]![i]!;
    if (Math.abs(pivot) < 1e-12) return null;
    for (let k = 0; k < 4; k++) {
      if (k === i) continue;
      const share = rows[k]![i]! / pivot;
      for (let j = i; j < 5; j++) rows[k]![j]! -= share * rows[i]![j]!;
    }
  }
  return rows.map((row, i) => row[4]! / row[i]!);
}
