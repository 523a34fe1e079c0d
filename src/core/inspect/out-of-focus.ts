import { RINGS, WINDOW_POWER, ringsOf } from './mean-power';

/** Radii of discs that are looked for, px: smaller ones take nothing away wholly that pixels hold. */
const RADII = Array.from({ length: 27 }, (_, i) => 1.5 + i / 4);
const SIGMAS = Array.from({ length: 41 }, (_, i) => i / 10);
/** How steeply subjects' power falls, and noise, as variances in levels: of each the best is taken. */
const FALLS = [2, 2.6] as const;
const NOISES = [0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 6.4] as const;
/** Rings by which a model's level is set, and all that are compared. */
const LEVEL = { from: 3, to: 9 } as const;
const COMPARED = { from: 3, to: 30 } as const;
/** A disc explains a spectrum so much better than a Gaussian … */
const BETTER = 0.8;
/** … and beyond where it leaves nothing, power rises again by so much, as a logarithm. A Gaussian's only falls. */
const RISE = 0.12;
/** A disc leaves nothing at this many periods in its radius first, and has the top of its next wave at under twice that. */
const FIRST_ZERO = 0.61;
const NEXT_WAVE = 1.9;
/** A window blurs spectra: so much of a ring is seen there and in those beside it. */
const SEEN = [0.05, 0.25, 0.4, 0.25, 0.05] as const;

/**
 * The radius of the disc that every point became because the lens was out of focus, in pixels: what a disc takes away
 * wholly shows as a dip in the spectrum, which is how it is told from a Gaussian of the same width.
 * @param power the mean power of patches
 * @returns null where nothing tells of a disc
 */
export function discIn(power: Float64Array): number | null {
  const logs = ringsOf(power).map(Math.log);
  const disc = bestOf(logs, DISCS);
  if (disc.off > BETTER * bestOf(logs, GAUSSIANS).off) return null;
  return riseBeyond(logs, (FIRST_ZERO * 2 * RINGS) / disc.value) < RISE ? null : disc.value;
}

/** How much power rises again beyond a ring about which it dips. */
function riseBeyond(logs: Float64Array, ring: number): number {
  const about = Math.round(ring);
  let dip = -1;
  for (let r = Math.max(3, about - 2); r <= Math.min(RINGS - 4, about + 2); r++) {
    if (dip < 0 || logs[r]! < logs[dip]!) dip = r;
  }
  if (dip < 0) return 0;
  const next = logs.subarray(dip + 1, Math.min(RINGS, Math.floor(NEXT_WAVE * dip)) + 1);
  return Math.max(...next) - logs[dip]!;
}

/** What a blur leaves of every ring's power. */
interface Blurred {
  value: number;
  left: Float64Array;
}

const rings = (of: (frequency: number) => number): Float64Array =>
  Float64Array.from({ length: RINGS + 1 }, (_, r) => of(Math.max(1, r) / (2 * RINGS)));

const GAUSSIANS: Blurred[] = SIGMAS.map((value) => ({
  value,
  left: rings((f) => Math.exp(-4 * Math.PI ** 2 * value * value * f * f)),
}));

const DISCS: Blurred[] = RADII.map((value) => {
  const left = rings((f) => {
    const x = 2 * Math.PI * value * f;
    return ((2 * bessel(x)) / x) ** 2;
  });
  const at = (r: number) => left[Math.min(RINGS, Math.max(1, r))]!;
  return { value, left: left.map((_, r) => SEEN.reduce((s, w, i) => s + w * at(r + i - 2), 0)) };
});

/** The Bessel function of the first kind and order, by its integral. */
function bessel(x: number): number {
  const STEPS = 128;
  let sum = 0;
  for (let i = 0; i < STEPS; i++) {
    const turn = ((i + 0.5) / STEPS) * Math.PI;
    sum += Math.cos(turn - x * Math.sin(turn));
  }
  return sum / STEPS;
}

/** The blur that explains a spectrum best, with noise beside it, and how far off it is. */
function bestOf(logs: Float64Array, blurs: readonly Blurred[]): { value: number; off: number } {
  let best = { value: 0, off: Infinity };
  for (const fall of FALLS) {
    const subject = rings((f) => f ** -fall);
    for (const { value, left } of blurs) {
      for (const noise of NOISES) {
        const off = offBy(logs, subject, left, noise * WINDOW_POWER);
        if (off < best.off) best = { value, off };
      }
    }
  }
  return best;
}

function offBy(logs: Float64Array, subject: Float64Array, left: Float64Array, noise: number) {
  const count = LEVEL.to - LEVEL.from + 1;
  let level = 1;
  // Noise adds to what there is, so that the level that fits is found in steps.
  for (let turn = 0; turn < 3; turn++) {
    let apart = 0;
    for (let r = LEVEL.from; r <= LEVEL.to; r++) {
      apart += logs[r]! - Math.log(level * subject[r]! * left[r]! + noise);
    }
    level *= Math.exp(apart / count);
  }
  let sum = 0;
  for (let r = COMPARED.from; r <= COMPARED.to; r++) {
    sum += (logs[r]! - Math.log(level * subject[r]! * left[r]! + noise)) ** 2;
  }
  return sum / (COMPARED.to - COMPARED.from + 1);
}
