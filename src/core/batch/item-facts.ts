import { followsRecipe } from '../house/apply';
import type { HouseContent } from '../house/house-recipe';
import { sufferedWords } from '../house/suits';
import type { Models } from '../learned/models';
import { verdict } from '../measure/verdict';
import { orderedWords } from '../measure/ordered-words';
import { digestOfValue } from '../recipe/canonical';
import { resolveRecipe } from '../recipe/resolve';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import { trialOf } from '../recipe/trials';
import { runCost } from '../render/throughput';
import { signedAs } from '../shop/event';
import type { Piece } from '../shop/job';
import type { ItemFacts } from './batch';

/** What a batch's table shows of a picture, and what its result follows from. */
export function itemFacts(
  { digest, findings, takenOut, work }: Pick<Piece, 'digest' | 'findings' | 'takenOut' | 'work'>,
  trialId: string,
  models: Models,
  /** what a version of a house recipe says; null where that isn't known any more */
  contentOf: (of: {
    id: number;
    version: number;
  }) => Pick<HouseContent, 'treatment' | 'guards'> | null,
): ItemFacts {
  const trial = trialOf(work, trialId);
  const original = originalOf(digest, findings, takenOut);
  const kind = work.kind ?? findings.kind;
  const planned = planOf(original, work, trial.ppi);
  const plan = planned.ok ? planned.plan : null;
  const judged = plan && verdict(plan, work.distance, { ...findings, kind });
  const resolved = resolveRecipe(original, work, trial, models);
  const recipe = resolved.ok ? resolved.recipe : null;
  const said = trial.house && contentOf(trial.house);
  return {
    digest,
    page: work.framing.page,
    kind,
    suffers: sufferedWords(findings),
    damaged: findings.damaged,
    print: plan ? orderedWords(plan, work.paper) : `${findings.width} × ${findings.height} px`,
    verdict: judged && { tone: judged.tone, short: judged.short },
    trialId: trial.id,
    trial: trial.name,
    house: trial.house && {
      ...{ id: trial.house.id, name: trial.house.name },
      changed: said === null || !followsRecipe(trial, said),
    },
    ppi: recipe?.target.ppi ?? trial.ppi,
    pixels: recipe && { width: recipe.target.width, height: recipe.target.height },
    file: { format: trial.output.format, quality: trial.output.quality },
    cost: recipe && runCost(recipe),
    trouble: resolved.ok ? null : resolved.reason,
    made: recipe ? signedAs(recipe) : digestOfValue({ work, trialId }),
  };
}
