import { lowered, phasesOf, stepOfKind } from '../steps';
import type { Treatment } from './work';
import { say } from '../words/say';

// The picture after each step of a treatment: for looking, never run.

/** A step of a treatment after which the picture can be looked at. */
export interface StageOfWork {
  /** its place in the treatment */
  index: number;
  /** as "after deblur"; where a kind stands several times, which of them */
  name: string;
}

/** The steps that do something, all but the last one: after that the picture is finished. */
export function stagesOf(treatment: Treatment): StageOfWork[] {
  const working = treatment
    .map((step, index) => ({ step, index }))
    .filter(({ step }) => step.on && step.strength > 0);
  const seen = new Map<string, number>();
  return working.slice(0, -1).map(({ step: { kind }, index }) => {
    const nth = (seen.get(kind) ?? 0) + 1;
    seen.set(kind, nth);
    const title = kind === 'enlarge' ? 'enlarging' : lowered(stepOfKind(kind).title);
    return { index, name: say`after ${title}${nth > 1 ? ` (${nth})` : ''}` };
  });
}

/** A treatment as far as one of its steps; what enlarges stays, so that it lies on the same paper. */
export function asFarAs(treatment: Treatment, index: number): Treatment {
  const phases = phasesOf(treatment);
  return treatment.map((step, i) =>
    i > index && phases[i] !== 'enlarge' ? { ...step, on: false } : step,
  );
}
