import { freeTrialName, putRecipe, putTreatment } from '../house/apply';
import type { ListedHouse } from '../house/house-recipe';
import { suitingRecipes } from '../house/suits';
import type { Findings } from '../inspect/findings';
import { inFormat } from '../output/output';
import type { TakenOut } from '../placed/placed';
import { frameSize } from '../frame/framing';
import { propose } from '../recipe/propose';
import { branchTrial, trialOf } from '../recipe/trials';
import { TRIALS, type Trial, type Work } from '../recipe/work';
import { say } from '../words/say';
import type { ItemChange, StepsChoice } from './batch';
import { paperBy } from './size-rule';

/** A picture of a batch, with the trial that the batch makes. */
export interface Planned {
  work: Work;
  trial: string;
  /** whether the trial is the batch's own, so that it may be treated anew */
  own: boolean;
}

/** What is known of a picture besides its work. */
interface Known {
  findings: Findings;
  takenOut: readonly TakenOut[];
}

type Outcome = ({ ok: true } & Planned) | { ok: false; reason: string };

/**
 * A picture's work with what is decided for it in a batch. A trial that somebody works on keeps its steps: the batch begins
 * one of its own beside it where it treats the picture otherwise.
 * @param recipes of the house, with their evidence
 */
export function planItem(
  known: Known,
  { work, trial: id, own }: Planned,
  { size, steps, ppi, file }: ItemChange,
  recipes: readonly ListedHouse[],
): Outcome {
  const copy = structuredClone(work);
  if (size) copy.paper = paperBy(size, copy.paper, frameSize(known.findings, copy.framing));
  let trial = trialOf(copy, id);
  own &&= trial.id === id;
  if (steps && steps.by !== 'kept') {
    if (!own) {
      const begun = branchTrial(copy, trial);
      if (!begun)
        return {
          ok: false,
          reason: say`It has ${TRIALS} trials already. Delete one of them first.`,
        };
      trial = begun;
    }
    const reason = treat(known, copy, trial, steps, recipes);
    if (reason) return { ok: false, reason };
    own = true;
  }
  if (size?.by === 'pixels') trial.ppi = size.ppi;
  if (ppi) trial.ppi = ppi;
  if (file) trial.output = { ...inFormat(trial.output, file.format), quality: file.quality };
  return { ok: true, work: copy, trial: trial.id, own };
}

/** Treats a trial as was chosen, in place. @returns why it can't be */
function treat(
  { findings, takenOut }: Known,
  work: Work,
  trial: Trial,
  steps: Exclude<StepsChoice, { by: 'kept' }>,
  recipes: readonly ListedHouse[],
): string | null {
  const recipe = steps.by === 'house' ? recipes.find((one) => one.id === steps.id) : null;
  if (recipe === undefined) return say`This house recipe was deleted. Choose another one.`;
  const { kind, material } = work;
  const toSuit = { findings, kind: kind ?? findings.kind, material };
  const chosen =
    steps.by === 'suiting' ? suitingRecipes(toSuit, recipes)[0]?.recipe : (recipe ?? undefined);
  if (chosen) putRecipe(work, trial, chosen);
  else {
    const { paper, distance, device, framing } = work;
    const order = { paper, distance, device, material, page: framing.page, ppi: trial.ppi };
    const proposed = propose(kind ? { ...findings, kind } : findings, order, takenOut).work;
    putTreatment(work, trial, { ...proposed.trials[0]!, zones: proposed.zones });
    trial.house = null;
    trial.name = say`As proposed`;
  }
  trial.name = freeTrialName(work, trial, trial.name);
  return null;
}
