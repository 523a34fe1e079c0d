import { insetSteps, stageOf, type SettledStep } from '../steps';
import type { Size } from '../raster/region';
import { MODELS } from '../learned/models';
import { kernels, type SeparableKernel } from '../steps/enlarge/kernels';
import { smoothReach } from '../steps/smooth/smooth';
import { canonicalJson, type SettledRecipe } from './recipe';

/**
 * Microseconds that a stage takes a pixel of its result, on the two cores of the machine that the
 * figures were seen on (`npm run bench -- effort`). Other machines are told by how their runs
 * compare with them.
 */
const COSTS: Record<Exclude<SettledStep['kind'], 'enlarge' | 'smooth'>, number> = {
  regrid: 0.05,
  compression: 1.2,
  noise: 0.9,
  specks: 1.6,
  fringes: 6.8,
  retouch: 0.05,
  banding: 0.4,
  tones: 0.1,
  texture: 0.1,
  magnify: 0.36,
  sharpen: 0.045,
  inset: 0.02,
  mount: 0.02,
};
/** … of a cleaner that asks a network, and of the larger of the enlarging ones, on top of that. */
const LEARNED_CLEANER = 2.4;
const LARGER_MODEL = 0.14;

/** Enlarging upright and in rows, by the taps of its kernel. */
const BASE = 0.005;
const TAP = 0.0025;
/** The kernel that isn't separable; and the others where they stand at a slant, a tap in x and y. */
const ROUND = 0.25;
const SLANTED = 0.045;
const SLANTED_TAP = 0.0019;
/** A pixel of the window that is smoothed over. */
const SMOOTHED_TAP = 0.0038;
/** A pass of the stepped way, a pixel of that pass. */
const PASS = 0.036;
/** What limiting ringing and mixing in light add. */
const LIMITED = 0.03;
const IN_LIGHT = 0.145;

/** Rounding and writing a pixel, of 8 bits or 16; and encoding one in another format than TIFF. */
const WRITING = { 8: 0.015, 16: 0.06 } as const;
const ENCODING = { tiff: 0, jpeg: 0.026, png: 0.057 } as const;
/** Drawing a pixel from shapes. */
const DRAWING = 0.1;
/** Seconds that every run takes: starting, reading back. */
const ALWAYS = 0.1;

/** Seconds that the parts of a run take on the machine of reference. */
export interface Effort {
  /** what is done at the original's size, or drawing */
  beginning: number;
  strips: number;
  encoding: number;
}

type Enlarging = Extract<SettledStep, { kind: 'enlarge' }>['numbers'];

const tapsOf = (method: Enlarging['method']): number =>
  method === 'nearest'
    ? 1
    : 2 * kernels[method === 'stepped' ? 'bicubic' : (method as SeparableKernel)].radius;

/** Microseconds that an enlargement takes a pixel of its result. */
function enlargingCost({ method, limit, light, straighten, step }: Enlarging): number {
  const more = (limit > 0 ? LIMITED : 0) + (light === 'linear' ? IN_LIGHT : 0);
  if (method === 'lanczos3-round') return ROUND + more;
  if (straighten !== 0) return SLANTED + SLANTED_TAP * tapsOf(method) ** 2 + more;
  // Passes grow by the same share: all together are a geometric series of their areas.
  if (method === 'stepped') return PASS / (1 - (1 + step / 100) ** -2) + more;
  return BASE + TAP * tapsOf(method) + more;
}

const costOf = ({ kind, numbers }: SettledStep): number => {
  if (kind === 'enlarge') return enlargingCost(numbers);
  if (kind === 'smooth') return SMOOTHED_TAP * (2 * smoothReach(numbers.radius) + 1) ** 2;
  const cleans = kind === 'compression' || kind === 'noise';
  const larger = kind === 'magnify' && numbers.model === MODELS.photo.digest;
  return COSTS[kind] + (cleans && numbers.model ? LEARNED_CLEANER : larger ? LARGER_MODEL : 0);
};

/** What a settled recipe costs to run, by what each of its stages costs a pixel. */
export function effortOf(recipe: SettledRecipe): Effort {
  const pixels = ({ width, height }: Size) => (width * height) / 1e6;
  const { original, target, output } = recipe;
  let size: Size = original;
  let before = original.drawn ? DRAWING * pixels(original) : 0;
  let after = 0;
  let enlarged = original.drawn !== null;
  const own = new Set(recipe.steps.map((step) => canonicalJson(step)));
  for (const step of recipe.steps) {
    if (step.kind === 'inset') {
      // What it shares with the picture that it is laid over is computed once.
      const steps = insetSteps(step.numbers).filter((one) => !own.has(canonicalJson(one)));
      const inside = effortOf({ ...recipe, steps });
      before += inside.beginning;
      after += inside.strips - ALWAYS;
    }
    size = stageOf(step).size(step.numbers, size);
    enlarged ||= step.kind === 'enlarge';
    const seconds = costOf(step) * pixels(size) * Math.min(1, step.strength);
    if (enlarged) after += seconds;
    else before += seconds;
  }
  return {
    beginning: before,
    strips: after + WRITING[output.depth] * pixels(target) + ALWAYS,
    encoding: ENCODING[output.format] * pixels(target),
  };
}

/** Seconds that a run takes on a machine so many times as fast as the one of reference. */
export function secondsFor(recipe: SettledRecipe, speed: number): number {
  const { beginning, strips, encoding } = effortOf(recipe);
  return (beginning + strips + encoding) / speed;
}

/** What runs are alike in, as far as their speed goes: how they enlarge. */
export const paceKey = ({ steps }: SettledRecipe): string =>
  steps.some(({ kind }) => kind === 'magnify')
    ? 'learned'
    : (steps.find((step) => step.kind === 'enlarge')?.numbers.method ?? 'drawn');
