import { planItem } from '../batch/plan-item';
import type { ListedHouse } from '../house/house-recipe';
import type { Findings } from '../inspect/findings';
import type { TakenOut } from '../placed/placed';
import type { Proposal } from '../recipe/propose';
import { say } from '../words/say';
import type { Begin } from './settings';

/** What a picture is begun with, and how its history says so. */
export type Begun = Proposal & { label: string };

/**
 * The first trial of a picture as the shop begins its work: as proposed, or by a house recipe.
 * @param recipes of the house, with their evidence
 */
export function begunBy(
  { job, file }: Pick<Begin, 'job' | 'file'>,
  known: { findings: Findings; takenOut: readonly TakenOut[] },
  proposal: Proposal,
  recipes: readonly ListedHouse[],
): Begun {
  const trial = proposal.work.trials[0]!.id;
  const steps = job.by === 'proposed' ? {} : { steps: job };
  const first = { work: proposal.work, trial, own: true };
  const planned = planItem(known, first, { file, ...steps }, recipes);
  if (!planned.ok) {
    // A recipe that was deleted treats nothing; what is proposed is written as the shop writes it all the same.
    const begun = begunBy({ job: { by: 'proposed' }, file }, known, proposal, recipes);
    return { ...begun, label: say`Proposed first trial. ${planned.reason}` };
  }
  const { house, name } = planned.work.trials[0]!;
  return house
    ? { work: planned.work, reasons: [], label: say`First trial by house recipe ${name}` }
    : { ...proposal, work: planned.work, label: say`Proposed first trial` };
}
