import { phasesOf, steps, type StepChoice, type StepKind } from '../steps';
import type { Treatment } from './recipe';

/** Cleaning steps in the order in which they are usually done. */
export const CLEANING = [
  'compression',
  'noise',
  'specks',
  'fringes',
  'retouch',
  'smooth',
  'banding',
  'tones',
  'texture',
] as const satisfies readonly StepKind[];
export type CleaningKind = (typeof CLEANING)[number];

/** Steps that may stand after the enlargement, besides sharpening. */
export const RETOUCHING = [
  ...CLEANING.filter((kind) => steps[kind].phases.some((phase) => phase === 'target')),
  'inset',
] as const;

/** Steps of which any number may stand on one side of the enlargement or the other. */
export type ListedKind = CleaningKind | 'inset';
const LISTED: readonly ListedKind[] = [...CLEANING, 'inset'];

/** A step as it is begun with: on, whole, with its usual settings. */
export function newStep<K extends StepKind>(
  kind: K,
  settings: Partial<Extract<StepChoice, { kind: K }>['settings']> = {},
): Extract<StepChoice, { kind: K }> {
  const choice = {
    kind,
    on: true,
    strength: 100,
    settings: { ...steps[kind].defaults, ...settings },
  };
  return choice as unknown as Extract<StepChoice, { kind: K }>;
}

/**
 * Where a new step of a kind belongs: after all that is usually done before it, on its side of the
 * enlargement.
 */
export function placeFor(treatment: Treatment, kind: ListedKind, after = false): number {
  const enlargement = treatment.findIndex((step) => step.kind === 'enlarge');
  const rank = (step: StepChoice): number => LISTED.indexOf(step.kind as ListedKind);
  const own = LISTED.indexOf(kind);
  let place = after ? enlargement + 1 : 0;
  const end = after ? treatment.length : enlargement;
  for (let i = place; i < end; i++) {
    if (rank(treatment[i]!) >= 0 && rank(treatment[i]!) <= own) place = i + 1;
  }
  return place;
}

/** Steps of a treatment with where they stand in it, those before or those after the enlargement. */
export function stepsOn(
  treatment: Treatment,
  phase: 'original' | 'target',
): { step: StepChoice; index: number }[] {
  const phases = phasesOf(treatment);
  return treatment.flatMap((step, index) => (phases[index] === phase ? [{ step, index }] : []));
}
