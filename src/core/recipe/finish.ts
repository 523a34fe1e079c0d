import { firstOfKind, phasesOf, stageOf, type RecipeStep } from '../steps';
import type { Recipe } from './recipe';
import type { Treatment } from './work';

// Ways to look at what is done at the print's size: none of them is ever run.

/** A treatment with those steps after the enlargement alone that `stays` keeps on. */
function finishing(treatment: Treatment, stays: (index: number) => boolean): Treatment {
  const phases = phasesOf(treatment);
  return treatment.map((step, i) =>
    phases[i] === 'target' && !stays(i) ? { ...step, on: false } : step,
  );
}

/** The same without all that is done at the print's size. */
export const withoutFinish = (treatment: Treatment): Treatment => finishing(treatment, () => false);

/** The same with one step alone of those at the print's size, by its place, switched on. */
export const soloed = (treatment: Treatment, index: number): Treatment =>
  finishing(treatment, (i) => i === index).map((step, i) =>
    i === index ? { ...step, on: true, strength: step.strength || 100 } : step,
  );

/** The same as far as a step, which stands by itself: at full strength, everywhere. */
export const upTo = (treatment: Treatment, index: number): Treatment =>
  finishing(treatment, (i) => i <= index).map((step, i) =>
    i === index ? { ...step, on: true, strength: 100, zone: undefined } : step,
  );

/** The last step before the sheet. */
const lastStep = ({ steps }: Recipe): RecipeStep | undefined =>
  steps.findLast(({ kind }) => kind !== 'mount');

/** Whether what the last step lays over the picture can be looked at. */
export const hasLayer = (kind: RecipeStep['kind']): boolean =>
  kind !== 'inset' && stageOf({ kind }).layer !== undefined;

/** A recipe whose last step shows what it lays over the picture, or where it works; null where that has none. */
export function asLayer(recipe: Recipe): Recipe | null {
  const last = lastStep(recipe);
  if (!last || last.kind === 'inset') return null;
  const layer = stageOf(last).layer;
  if (!layer) return null;
  const shown = { kind: last.kind, strength: 100, numbers: layer.numbers(last.numbers) };
  const greys: RecipeStep = { kind: 'greys', strength: 100, numbers: {} };
  const steps = recipe.steps.flatMap((step) =>
    step === last ? [shown as RecipeStep, greys] : [step],
  );
  return { ...recipe, steps };
}

/** A recipe as it looks once ink spread and the eye blurred it. @param radius in pixels of the result */
export function blurredBy(recipe: Recipe, radius: number): Recipe {
  const mount = firstOfKind(recipe.steps, 'mount');
  const rest = recipe.steps.filter((step) => step !== mount);
  const numbers = { radius: Math.min(200, radius) };
  const spread: RecipeStep = { kind: 'spread', strength: 100, numbers };
  return { ...recipe, steps: [...rest, spread, ...(mount ? [mount] : [])] };
}

/** Whether a recipe does anything at the print's size. */
export function finishes(recipe: Recipe): boolean {
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  return phases.includes('target');
}
