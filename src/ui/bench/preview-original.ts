import type { Findings } from '@/core/inspect/findings';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { phasesOf } from '@/core/steps';
import { beforeEnlarging } from '@/core/treatment/settle';
import type { PreviewOriginal } from '@/preview/client';
import type { PaneOriginal } from './stage/previewed';

/** An original as the stage asks the preview for it. */
export const paneOriginal = (digest: string, findings: Findings): PaneOriginal => ({
  digest,
  page: findings.page,
  depth: findings.bitDepth,
  channels: findings.alpha ? 4 : 3,
  profiled: findings.profile !== null,
});

/** An original at its own size, for what is computed on it beside the stage. */
export const wholeOriginal = (
  digest: string,
  findings: Findings,
  recipe: SettledRecipe,
): PreviewOriginal => ({
  ...paneOriginal(digest, findings),
  level: 0,
  size: { width: recipe.original.width, height: recipe.original.height },
  drawn: recipe.original.drawn,
});

/** The recipe on the original's own grid, neither turned nor straightened; cleaned or as it came. */
export function onOwnGrid(recipe: SettledRecipe, cleaned: boolean): SettledRecipe {
  const upright = {
    ...recipe,
    steps: recipe.steps.map((step) =>
      step.kind === 'enlarge'
        ? { ...step, numbers: { ...step.numbers, turn: 0 as const, straighten: 0 } }
        : step,
    ),
  };
  return beforeEnlarging(upright, cleaned);
}

/** The same with what is done before the first retouching: what spots are healed from. */
export function beforeRetouching(recipe: SettledRecipe): SettledRecipe {
  const phases = phasesOf(recipe.steps);
  const first = recipe.steps.findIndex(
    ({ kind }, i) => kind === 'retouch' && phases[i] === 'original',
  );
  return onOwnGrid(
    first < 0
      ? recipe
      : { ...recipe, steps: recipe.steps.filter((_, i) => i < first || phases[i] !== 'original') },
    true,
  );
}
