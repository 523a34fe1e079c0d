import { canonicalJson } from '../recipe/canonical';
import type { Trial } from '../recipe/work';
import { stepOfKind, summaryOf, type StepChoice } from '../steps';
import { say } from '../words/say';

/** What becomes of a step when a trial is treated in another way. */
export interface StepChange {
  title: string;
  /** its settings; null where it is not there, or off */
  before: string | null;
  after: string | null;
  /** whether nothing of it changes; settings may differ that words don't say */
  same: boolean;
}

/** Steps of both trials in their order, each with what it was and what it becomes. */
export function stepChanges(
  before: Pick<Trial, 'treatment'>,
  after: Pick<Trial, 'treatment'>,
): StepChange[] {
  const was = before.treatment.filter(({ on }) => on);
  const becomes = after.treatment.filter(({ on }) => on);
  const changes: StepChange[] = [];
  let next = 0;
  for (const step of becomes) {
    const at = was.findIndex(({ kind }, i) => i >= next && kind === step.kind);
    if (at >= 0) {
      changes.push(...was.slice(next, at).map((gone) => changeOf(gone, null)));
      next = at + 1;
    }
    changes.push(changeOf(at >= 0 ? was[at]! : null, step));
  }
  return [...changes, ...was.slice(next).map((gone) => changeOf(gone, null))];
}

function changeOf(before: StepChoice | null, after: StepChoice | null): StepChange {
  const words = (step: StepChoice | null) => step && (summaryOf(step) || say`on`);
  return {
    title: stepOfKind((after ?? before)!.kind).title,
    before: words(before),
    after: words(after),
    same: canonicalJson(before) === canonicalJson(after),
  };
}
