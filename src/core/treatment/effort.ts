import { insetSteps, stageOf, type SettledStep } from '../steps';
import type { Size } from '../raster/region';
import { canonicalJson, type SettledRecipe } from './recipe';

/**
 * Microseconds that a stage takes a pixel of its result, on the two cores of the machine that the
 * figures were seen on (`npm run bench -- effort`). Other machines are told by how their runs
 * compare with them.
 */
const COSTS: Record<SettledStep['kind'], number> = {
  regrid: 0.05,
  compression: 0.9,
  noise: 0.9,
  specks: 0.2,
  fringes: 0.3,
  retouch: 0.05,
  smooth: 0.3,
  banding: 0.4,
  tones: 0.05,
  texture: 0.2,
  magnify: 0.42,
  enlarge: 0.04,
  sharpen: 0.05,
  inset: 0.01,
  mount: 0.02,
};
/** … of a cleaner that asks a network. */
const LEARNED_CLEANER = 6;

const ENLARGING: Record<Extract<SettledStep, { kind: 'enlarge' }>['numbers']['method'], number> = {
  nearest: 0.02,
  bilinear: 0.025,
  bicubic: 0.03,
  mitchell: 0.03,
  lanczos2: 0.03,
  lanczos3: 0.035,
  'lanczos3-round': 0.4,
  stepped: 0.2,
};
/** What limiting ringing and mixing in light add. */
const LIMITED = 0.01;
const IN_LIGHT = 0.05;
/** Straightening, in proportion to the upright way. */
const SLANTED = 6;

/** Rounding and writing a pixel; and encoding one in another format than TIFF. */
const WRITING = 0.012;
const ENCODING = { tiff: 0, jpeg: 0.02, png: 0.15 } as const;
/** Drawing a pixel from shapes. */
const DRAWING = 0.1;
/** Seconds that every run takes: starting, reading back. */
const ALWAYS = 0.6;

/** Seconds that the parts of a run take on the machine of reference. */
export interface Effort {
  /** what is done at the original's size, or drawing */
  beginning: number;
  strips: number;
  encoding: number;
}

const costOf = ({ kind, numbers }: SettledStep): number => {
  if (kind === 'enlarge') {
    const { method, limit, light, straighten } = numbers;
    const way = ENLARGING[method] * (straighten !== 0 && method !== 'lanczos3-round' ? SLANTED : 1);
    return way + (limit > 0 ? LIMITED : 0) + (light === 'linear' ? IN_LIGHT : 0);
  }
  const cleans = kind === 'compression' || kind === 'noise';
  return cleans && numbers.model ? LEARNED_CLEANER : COSTS[kind];
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
    strips: after + WRITING * pixels(target) + ALWAYS,
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
