import type { PrintPlan } from '../measure/plan';
import { planPrint } from '../measure/plan';
import { steps, type SettledStep, type StepChoice } from '../steps';
import type { SettleContext, Step } from '../steps/step';
import { CORE_VERSION, RECIPE_VERSION, type SettledRecipe, type Trial, type Work } from './recipe';
import type { Original } from './source';
import { levelSize } from './tiles';

/** A settled recipe with its plan, or in words why the print can't be made. */
export type Settled =
  { ok: true; recipe: SettledRecipe; plan: PrintPlan } | { ok: false; reason: string };

/**
 * Turns every automatic choice of a trial into numbers. After this no step looks at anything but
 * its region and its reach.
 */
export function settle(original: Original, work: Work, trial: Trial): Settled {
  const planned = planPrint(original.size, work.paper, trial.ppi);
  if (!planned.ok) return planned;
  const { plan } = planned;
  const context: SettleContext = { original: original.size, jpeg: original.jpeg, plan };
  return {
    ok: true,
    plan,
    recipe: {
      version: RECIPE_VERSION,
      core: CORE_VERSION,
      original: { digest: original.digest, ...original.size },
      target: { ...plan.pixels, ppi: plan.ppiAfter, fit: work.paper.fit },
      steps: trial.treatment.flatMap((choice) => settleStep(choice, context)),
      output: trial.output,
    },
  };
}

function settleStep(choice: StepChoice, context: SettleContext): SettledStep[] {
  if (!choice.on || choice.strength === 0) return [];
  const step = steps[choice.kind] as unknown as Step<string, unknown, object>;
  const numbers = step.settle(choice.settings, context);
  return numbers ? [{ kind: choice.kind, strength: choice.strength, numbers } as SettledStep] : [];
}

/**
 * The same recipe for a result `scale` times as large, 0 to 1: what a preview shows when it is
 * zoomed out. Close to the reduced result, but not its exact pixels; whoever shows it says so.
 */
export function atScale(recipe: SettledRecipe, scale: number): SettledRecipe {
  if (scale === 1) return recipe;
  const scaled = recipe.steps.map((settled) => {
    const step = steps[settled.kind] as unknown as Step<string, unknown, object>;
    return { ...settled, numbers: step.scaled(settled.numbers, scale) } as SettledStep;
  });
  const enlarged = scaled.find((step) => step.kind === 'enlarge')!.numbers;
  return {
    ...recipe,
    target: { ...recipe.target, width: enlarged.width, height: enlarged.height },
    steps: scaled,
  };
}

/**
 * The same small rendering from an original that was halved `level` times. Steps at the original's
 * size are left out: so far away nothing of them is seen.
 */
export function fromHalved(recipe: SettledRecipe, level: number): SettledRecipe {
  if (level === 0) return recipe;
  const size = levelSize(recipe.original, level);
  const x = size.width / recipe.original.width;
  const y = size.height / recipe.original.height;
  return {
    ...recipe,
    original: { ...recipe.original, ...size },
    steps: recipe.steps.flatMap((step): SettledStep[] => {
      if (steps[step.kind].phase === 'original') return [];
      if (step.kind !== 'enlarge') return [step];
      const { source } = step.numbers;
      const halved = {
        x: source.x * x,
        y: source.y * y,
        width: source.width * x,
        height: source.height * y,
      };
      return [{ ...step, numbers: { ...step.numbers, source: halved } }];
    }),
  };
}

/** The original as the printer would print it if nothing were done: its pixels repeated. */
export function untreated(recipe: SettledRecipe): SettledRecipe {
  return {
    ...recipe,
    steps: recipe.steps.flatMap((step) =>
      step.kind === 'enlarge'
        ? [{ ...step, numbers: { ...step.numbers, method: 'nearest' as const } }]
        : [],
    ),
  };
}

/** The recipe without its enlargement and what follows: the cleaned original on its own grid. */
export function beforeEnlarging(recipe: SettledRecipe): SettledRecipe {
  return {
    ...recipe,
    target: {
      ...recipe.target,
      width: recipe.original.width,
      height: recipe.original.height,
    },
    steps: recipe.steps.filter((step) => steps[step.kind].phase === 'original'),
  };
}
