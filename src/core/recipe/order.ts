import {
  phasesOf,
  stepOfKind,
  steps,
  type ListedKind,
  type StepChoice,
  type StepKind,
} from '../steps';
import type { Treatment } from './work';

const isListed = (kind: StepKind): kind is ListedKind =>
  stepOfKind(kind).phases.every((phase) => phase !== 'enlarge');

/** Steps that may stand before or after the enlargement, in the order in which they are usually done. */
export const listedIn = (phase: 'original' | 'target'): ListedKind[] =>
  Object.values(steps)
    .map(({ kind }) => kind)
    .filter(isListed)
    .filter((kind) => stepOfKind(kind).phases.includes(phase))
    .sort((a, b) => stepOfKind(a).rank - stepOfKind(b).rank);

/** A step as it is begun with: on, whole, with its usual settings. */
export function newStep<K extends StepKind>(
  kind: K,
  settings: Partial<Extract<StepChoice, { kind: K }>['settings']> = {},
): Extract<StepChoice, { kind: K }> {
  const choice = {
    kind,
    on: true,
    strength: 100,
    settings: { ...(stepOfKind(kind).defaults as object), ...settings },
  };
  return choice as unknown as Extract<StepChoice, { kind: K }>;
}

/**
 * Where a new step of a kind belongs: after all that is usually done before it, on its side of the
 * enlargement.
 */
export function placeFor(treatment: Treatment, kind: ListedKind, after = false): number {
  const enlargement = treatment.findIndex((step) => !isListed(step.kind));
  const { rank } = stepOfKind(kind);
  let place = after ? enlargement + 1 : 0;
  const end = after ? treatment.length : enlargement;
  for (let i = place; i < end; i++) {
    if (stepOfKind(treatment[i]!.kind).rank <= rank) place = i + 1;
  }
  return place;
}

/** Moves a step by one place, in place; it stays on its side of the enlargement. Returns its new place. */
export function moveStep(treatment: Treatment, index: number, by: -1 | 1): number {
  const to = index + by;
  const neighbour = treatment[to];
  if (!neighbour || !isListed(neighbour.kind) || !isListed(treatment[index]!.kind)) return index;
  [treatment[index], treatment[to]] = [neighbour, treatment[index]!];
  return to;
}

/** Steps of a treatment with where they stand in it, those before or those after the enlargement. */
export function stepsOn(
  treatment: Treatment,
  phase: 'original' | 'target',
): { step: StepChoice; index: number }[] {
  const phases = phasesOf(treatment);
  return treatment.flatMap((step, index) => (phases[index] === phase ? [{ step, index }] : []));
}
