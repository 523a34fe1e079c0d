import { CALIBRATIONS, calibratedFor, type KnownCalibration } from '../evidence/calibrations';
import { frameSize } from '../frame/framing';
import { UPSCALING } from '../learned/enlarger';
import { levelSize } from '../raster/tiles';
import type { Rect } from '../frame/framing';
import type { Size } from '../raster/region';
import {
  firstOfKind,
  isOfKind,
  withoutKind,
  insetSteps,
  numberedOf,
  phasesOf,
  type RecipeStep,
} from '../steps';
import type { ResampleNumbers } from '../steps/resample/resample';
import { scaledLimit } from '../guard/guards';
import type { ZoneMap } from '../zone/zone';
import type { Recipe } from './recipe';

// Recipes made for looking: none of them is ever run.

/** The same resampling of a picture that is so many times as large. */
export function onLarger(numbers: ResampleNumbers, across: number, down = across): ResampleNumbers {
  const { x, y, width, height } = numbers.source;
  const source = {
    x: x * across,
    y: y * down,
    width: width * across,
    height: height * down,
  };
  return { ...numbers, source };
}

/** A change of the numbers of every resampling. */
const resampled = (
  steps: readonly RecipeStep[],
  change: (numbers: ResampleNumbers) => ResampleNumbers,
): RecipeStep[] =>
  steps.map((step) =>
    isOfKind(step, 'resample') ? { ...step, numbers: change(step.numbers) } : step,
  );

/** The resampling of a recipe that has one. */
const resamplingOf = ({ steps }: Recipe): ResampleNumbers | undefined =>
  firstOfKind(steps, 'resample')?.numbers;

/** A change of a recipe that insets follow as well. */
const withInsets =
  (change: (recipe: Recipe) => Recipe) =>
  (recipe: Recipe): Recipe => {
    const changed = change(recipe);
    const steps = changed.steps.map((step): RecipeStep => {
      if (!isOfKind(step, 'inset')) return step;
      const inside = change({ ...recipe, steps: insetSteps(step.numbers) });
      return { ...step, numbers: { steps: inside.steps } };
    });
    return { ...changed, steps };
  };

/** The same without upscaling networks before the resampling. */
export const withoutUpscaling = withInsets((recipe) => {
  const { steps } = recipe;
  const rest = withoutKind(steps, 'upscale');
  const networks = steps.length - rest.length;
  if (networks === 0) return recipe;
  return { ...recipe, steps: resampled(rest, (one) => onLarger(one, UPSCALING ** -networks)) };
});

/** What of the picture is resampled, in pixels of its own grid whatever networks come before. */
export function resampledPart(recipe: Recipe): ResampleNumbers | undefined {
  return resamplingOf(withoutUpscaling(recipe));
}

const scaledSide = (side: number, scale: number): number => Math.max(1, Math.round(side * scale));

/**
 * The same recipe for a result `scale` times as large, 0 to 1: what a preview shows when it is
 * zoomed out. Close to the reduced result, but not its exact pixels; whoever shows it says so.
 */
export const atScale = (recipe: Recipe, scale: number): Recipe =>
  scale === 1 ? recipe : withInsets((one) => scaledRecipe(one, scale))(recipe);

function scaledRecipe(recipe: Recipe, scale: number): Recipe {
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  const scaled = recipe.steps.map((step, i) => {
    // What is done at the original's size is the same for a result of any size.
    if (phases[i] === 'original') return step;
    const numbers = numberedOf(step).scaled(step.numbers, scale);
    const limit = step.limit && scaledLimit(step.limit, scale);
    return { ...step, ...(limit && { limit }), numbers } as RecipeStep;
  });
  const { original } = withPlaced((one) => atScale(one, scale))(recipe);
  // What is drawn from shapes is drawn small.
  const small = original.drawn && {
    width: scaledSide(original.width, scale),
    height: scaledSide(original.height, scale),
  };
  return withTarget({ ...recipe, original: { ...original, ...small }, steps: scaled });
}

/** The same with the pictures on its page as they came. */
export const withoutTreated = (recipe: Recipe): Recipe => withPlaced(null)(recipe);

/** A change of the recipes of pictures that are drawn on a page; null takes them as they came. */
const withPlaced =
  (change: ((recipe: Recipe) => Recipe) | null) =>
  (recipe: Recipe): Recipe => {
    const { drawn } = recipe.original;
    if (!drawn || drawn.placed.length === 0) return recipe;
    const placed = change
      ? drawn.placed.map((one) => ({ ...one, recipe: change(one.recipe) }))
      : [];
    return { ...recipe, original: { ...recipe.original, drawn: { ...drawn, placed } } };
  };

/** The recipe with the target that its steps lead to. */
function withTarget(recipe: Recipe): Recipe {
  const { width, height } = recipe.steps.reduce<Size>(
    (size, step) => numberedOf(step).size(step.numbers, size),
    recipe.original,
  );
  return { ...recipe, target: { ...recipe.target, width, height } };
}

/**
 * The same small rendering from an original that was halved `level` times. Steps at the original's
 * size of which nothing is seen from so far away are left out.
 */
export const fromHalved = (recipe: Recipe, level: number): Recipe =>
  level === 0 || recipe.original.drawn
    ? recipe
    : withInsets((one) => halvedRecipe(one, level))(withoutUpscaling(recipe));

function halvedRecipe(recipe: Recipe, level: number): Recipe {
  const size = levelSize(recipe.original, level);
  const grid = gridOf(recipe);
  const x = size.width / grid.width;
  const y = size.height / grid.height;
  const phases = phasesOf(recipe.steps);
  const smaller = (zone: ZoneMap): ZoneMap => ({ ...zone, feather: zone.feather * Math.min(x, y) });
  const small = <S extends RecipeStep>({ zone, spared, ...step }: S): S =>
    ({
      ...step,
      ...(zone && { zone: smaller(zone) }),
      ...(spared && { spared: smaller(spared) }),
    }) as S;
  const steps = recipe.steps.flatMap((step, i): RecipeStep[] => {
    if (phases[i] !== 'original') return [small(step)];
    const numbers = numberedOf(step).proxy?.(step.numbers, Math.min(x, y));
    return numbers ? [small({ ...step, numbers } as RecipeStep)] : [];
  });
  return {
    ...recipe,
    original: { ...recipe.original, ...size },
    steps: resampled(steps, (numbers) =>
      numbers.turn % 180 === 0 ? onLarger(numbers, x, y) : onLarger(numbers, y, x),
    ),
  };
}

/** Size of the grid that is enlarged: the original's, or the true one of repeated pixels. */
function gridOf(recipe: Recipe): Size {
  const { width, height } = firstOfKind(recipe.steps, 'regrid')?.numbers ?? recipe.original;
  return { width, height };
}

/** The same with classical estimates in place of learned ones, whose enlargement is not held to any limit. */
export const classically = (recipe: Recipe): Recipe =>
  withInsets((one) => ({ ...one, steps: one.steps.map(withoutModel).map(unheld).map(untraced) }))(
    withPlaced(classically)(withoutUpscaling(recipe)),
  );

function unheld(step: RecipeStep): RecipeStep {
  if (!isOfKind(step, 'resample') || !step.limit) return step;
  const { limit: _, ...rest } = step;
  return rest;
}

/** Whether a recipe's picture is drawn fresh from its areas and edges. */
export const isTraced = (recipe: Recipe): boolean => resamplingOf(recipe)?.method === 'traced';

/** Tracing is too slow for what is soon replaced. */
const untraced = (step: RecipeStep): RecipeStep =>
  isOfKind(step, 'resample') && step.numbers.method === 'traced'
    ? { ...step, numbers: { ...step.numbers, method: 'bicubic' } }
    : step;

/** A step as it is computed without its network. */
export const withoutModel = (step: RecipeStep): RecipeStep =>
  'model' in step.numbers
    ? ({ ...step, numbers: { ...step.numbers, model: null } } as RecipeStep)
    : step;

const FRAMING_STEPS: readonly RecipeStep['kind'][] = ['regrid', 'resample', 'mount'];

/** The original as the printer would print it if nothing were done: its pixels repeated. */
export function untreated(recipe: Recipe): Recipe {
  const steps = withoutUpscaling(recipe).steps.filter(({ kind }) => FRAMING_STEPS.includes(kind));
  return {
    ...withoutTreated(recipe),
    steps: resampled(steps, (numbers) => ({ ...numbers, method: 'nearest', light: 'gamma' })),
  };
}

/** The same with pixels that are averaged: repeated ones can't be shown smaller than they are. */
export const smoothly = (recipe: Recipe): Recipe => ({
  ...recipe,
  steps: resampled(recipe.steps, (numbers) => ({ ...numbers, method: 'bilinear' })),
});

/** A plain resampling of a whole frame, as it is turned and straightened. */
const framed = (
  frame: Size,
  to: Size,
  { turn, straighten }: Pick<ResampleNumbers, 'turn' | 'straighten'>,
  method: ResampleNumbers['method'],
): RecipeStep => ({
  kind: 'resample',
  strength: 100,
  numbers: {
    ...{ method, light: 'gamma', limit: 0, step: 10, turn, straighten, ...to },
    source: { x: 0, y: 0, ...frame },
  },
});

/**
 * The recipe without its enlargement and what follows: the cleaned original on its own grid, as it
 * is turned and straightened.
 * @param cleaned false leaves it as it came
 */
export function beforeEnlarging(recipe: Recipe, cleaned = true): Recipe {
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  const kept = recipe.steps.filter(
    (step, i) =>
      isOfKind(step, 'regrid') ||
      (cleaned && phases[i] === 'original' && !isOfKind(step, 'upscale')),
  );
  const { turn = 0, straighten = 0 } = resamplingOf(recipe) ?? {};
  const frame = frameSize(gridOf(recipe), { ...NO_GRID, turn });
  // Interpolated rather than repeated, so that a straightened picture shows no stairs.
  const method = straighten === 0 ? 'nearest' : 'bicubic';
  const turned =
    turn === 0 && straighten === 0 ? [] : [framed(frame, frame, { turn, straighten }, method)];
  const from = cleaned ? recipe : withoutTreated(recipe);
  return withTarget({ ...from, steps: [...kept, ...turned] });
}

const NO_GRID = { page: 1, grid: null, straighten: 0, crop: null } as const;

/** The recipe on the original's own grid, neither turned nor straightened; cleaned or as it came. */
export const onOwnGrid = (recipe: Recipe, cleaned: boolean): Recipe =>
  beforeEnlarging(
    {
      ...recipe,
      steps: resampled(recipe.steps, (numbers) => ({ ...numbers, turn: 0, straighten: 0 })),
    },
    cleaned,
  );

/** The same with what is done before the first retouching: what spots are healed from. */
export function beforeRetouching(recipe: Recipe): Recipe {
  const phases = phasesOf(recipe.steps);
  const first = recipe.steps.findIndex(
    (step, i) => isOfKind(step, 'retouch') && phases[i] === 'original',
  );
  return onOwnGrid(
    first < 0
      ? recipe
      : { ...recipe, steps: recipe.steps.filter((_, i) => i < first || phases[i] !== 'original') },
    true,
  );
}

/** The whole turned and straightened picture, uncropped and untreated, at a size. @param frame its own */
export function wholeFrame(recipe: Recipe, frame: Size, size: Size): Recipe {
  const { drawn } = recipe.original;
  const { turn = 0, straighten = 0 } = resamplingOf(recipe) ?? {};
  return {
    ...recipe,
    target: { ...recipe.target, ...size },
    original: drawn
      ? {
          ...recipe.original,
          ...size,
          drawn: { ...drawn, source: { x: 0, y: 0, ...frame }, placed: [] },
        }
      : recipe.original,
    steps: drawn
      ? []
      : [
          ...recipe.steps.filter((step) => isOfKind(step, 'regrid')),
          framed(frame, size, { turn, straighten }, 'bilinear'),
        ],
  };
}

/** A result and what of its original lies on the same paper, for one to be measured by the other. */
export interface OnPaper {
  /** the original's pixels at their own size, untreated */
  original: Recipe;
  /** the result without its sheet */
  result: Recipe;
}

/** Both of a recipe; null where there are no pixels of an original. */
export function onPaper(recipe: Recipe): OnPaper | null {
  const part = resampledPart(recipe);
  if (!part || recipe.original.drawn) return null;
  const { x, y, width, height } = part.source;
  const own = [x, y, width, height].every(Number.isInteger) && part.straighten === 0;
  const numbers: ResampleNumbers = {
    ...part,
    ...{ method: own ? 'nearest' : 'bicubic', light: 'gamma', limit: 0 },
    width: Math.max(1, Math.round(width)),
    height: Math.max(1, Math.round(height)),
  };
  const kept = recipe.steps.filter((step) => isOfKind(step, 'regrid'));
  return {
    original: withTarget({
      ...recipe,
      steps: [...kept, { kind: 'resample', strength: 100, numbers }],
    }),
    result: withTarget({ ...recipe, steps: withoutKind(recipe.steps, 'mount') }),
  };
}

/** The recipe up to its first network that enlarges, and that with a plain enlargement in its place. */
export function upscalingOf(
  recipe: Recipe,
): { learned: Recipe; plain: Recipe; severity: number; by: KnownCalibration } | null {
  const network = firstOfKind(recipe.steps, 'upscale');
  if (!network) return null;
  const before = recipe.steps.slice(0, recipe.steps.indexOf(network));
  const told = firstOfKind(before, 'restore')?.numbers.told;
  return {
    learned: { ...recipe, steps: [...before, network] },
    plain: { ...recipe, steps: [...before, withoutModel(network)] },
    // What Restore took back is off by more than what was never lost.
    severity: network.numbers.luma + (told ? told.blur + told.noise : 0),
    by: CALIBRATIONS[told ? 'restored' : calibratedFor(network.numbers)],
  };
}

/**
 * The part of the frame that lies under the whole sheet: what the resampling takes, and as much more as
 * margins and bleed would cover.
 */
export function sheetOnFrame(recipe: Recipe): Rect {
  const part = resampledPart(recipe);
  const { width, height } = recipe.original;
  const source = part?.source ?? { x: 0, y: 0, width, height };
  const picture = part ?? recipe.original;
  const mounted = firstOfKind(recipe.steps, 'mount')?.numbers;
  if (!mounted) return source;
  const x = source.width / picture.width;
  const y = source.height / picture.height;
  return {
    x: source.x - mounted.x * x,
    y: source.y - mounted.y * y,
    width: mounted.width * x,
    height: mounted.height * y,
  };
}
