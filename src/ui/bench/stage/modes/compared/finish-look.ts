import { useMemo } from 'react';
import { asLayer, blurredBy, soloed, upTo, withoutFinish } from '@/core/recipe/finish';
import type { Recipe } from '@/core/recipe/recipe';
import type { Resolved } from '@/core/recipe/resolve';
import { firstOfKind, stageOf, stepOfKind, type StepChoice } from '@/core/steps';
import { inPixels, spreadAndEye, surfaceOf } from '@/core/steps/paper/surfaces';
import { useOpen } from '../../../ticket/open';
import type { WorkBench } from '../../../use-work';
import { useFinish, type FinishLook } from '../../overlays/overlay';
import { useLooking } from '../mode';
import { say } from '@/core/words/say';

/** What is looked at in place of the finished picture. */
export interface FinishLooked {
  recipe: Recipe;
  /** for its caption */
  made: string;
  /** what is done to whatever it is compared with, so that both are seen alike */
  alike(recipe: Recipe): Recipe;
}

const same = (recipe: Recipe): Recipe => recipe;

/** What of Finish is looked at just now; null where all of it shows. */
export function useFinishLook(bench: WorkBench): FinishLooked | null {
  const section = useOpen((open) => open.section);
  const finish = useFinish(bench.trial);
  const unfinished = useLooking((looking) => looking.unfinished);
  const { resolved } = bench;
  const chosen: FinishLook =
    section === 'finish' && !unfinished ? finish : { way: unfinished ? 'without' : 'all' };
  const { way } = chosen;
  const step = 'step' in chosen ? chosen.step : null;
  return useMemo(
    () => lookedAt(bench, way, step),
    // All that it reads of the bench follows from what is resolved.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [resolved, way, step],
  );
}

function lookedAt(
  { trial, work, resolve, resolved }: WorkBench,
  way: FinishLook['way'],
  index: number | null,
): FinishLooked | null {
  if (!resolved.ok || way === 'all') return null;
  if (way === 'from afar') {
    const { distance, material } = work;
    const told = firstOfKind<StepChoice, 'paper'>(trial.treatment, 'paper')?.settings.surface;
    const surface = told && told !== 'auto' ? told : surfaceOf(material);
    const { together } = spreadAndEye(surface, distance);
    const alike = (recipe: Recipe) => blurredBy(recipe, inPixels(together, recipe.target.ppi));
    return { recipe: alike(resolved.recipe), made: say`as seen from ${distance} m`, alike };
  }
  const recipeOf = (treatment: typeof trial.treatment): Recipe | null => {
    const found: Resolved = resolve({ ...trial, treatment });
    return found.ok ? found.recipe : null;
  };
  if (way === 'without') {
    const recipe = recipeOf(withoutFinish(trial.treatment));
    return recipe && { recipe, made: say`without Finish`, alike: same };
  }
  const step = index === null ? undefined : trial.treatment[index];
  if (!step) return null;
  const title = stepOfKind(step.kind).title.toLowerCase();
  if (way === 'solo') {
    const recipe = recipeOf(soloed(trial.treatment, index!));
    return recipe && { recipe, made: say`${title} alone`, alike: same };
  }
  const upToIt = recipeOf(upTo(trial.treatment, index!));
  const recipe = upToIt && asLayer(upToIt);
  if (!recipe || step.kind === 'enlarge' || step.kind === 'inset') return null;
  // The step may have come to nothing, so that another one is the last.
  if (!firstOfKind(recipe.steps, step.kind)) return null;
  return { recipe, made: `${title}: ${stageOf({ kind: step.kind }).layer!.title}`, alike: same };
}
