import { useMemo } from 'react';
import { putRecipe } from '@/core/house/apply';
import type { HouseRecipe } from '@/core/house/house-recipe';
import type { Findings } from '@/core/inspect/findings';
import type { Models } from '@/core/learned/models';
import { formatMegapixels, formatPpi } from '@/core/measure/format';
import { outputWords } from '@/core/output/output';
import type { Original } from '@/core/recipe/original';
import { resolveRecipe, type Resolved } from '@/core/recipe/resolve';
import { trialOf } from '@/core/recipe/trials';
import type { Trial, Work } from '@/core/recipe/work';
import { estimate, type Throughput } from '@/core/render/throughput';
import { estimateWords } from '../parts/time-left';
import { say } from '@/core/words/say';

/** A picture as a recipe would be tried on it. */
export interface Pictured {
  digest: string;
  findings: Findings;
  original: Original;
  work: Work;
  /** the trial that it is compared with */
  trial: Trial;
  resolved: Resolved;
}

/** A trial, and what it comes to. */
export interface Treated {
  trial: Trial;
  resolved: Resolved;
}

/** What a recipe would make of a picture's trial. */
export function useRecipeOn(
  { original, work, trial }: Pictured,
  recipe: HouseRecipe,
  models: Models,
): Treated {
  return useMemo(() => {
    const copy = structuredClone(work);
    const its = trialOf(copy, trial.id);
    putRecipe(copy, its, recipe);
    return { trial: its, resolved: resolveRecipe(original, copy, its, models) };
  }, [original, work, trial.id, recipe, models]);
}

/** Size, file and time of a trial in one line; why it can't be printed, where it can't. */
export const comesTo = (
  { trial, resolved }: Treated,
  throughput: Throughput | undefined,
): string =>
  resolved.ok
    ? [
        say`${formatPpi(resolved.plan.ppiAfter)} ppi`,
        say`${formatMegapixels(resolved.plan.megapixels)} MP`,
        outputWords(trial.output),
        ...(throughput ? [estimateWords(estimate(resolved.recipe, throughput))] : []),
      ].join(' · ')
    : resolved.reason;
