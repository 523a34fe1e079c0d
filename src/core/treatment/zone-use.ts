import type { StepChoice } from '../steps';
import type { Treatment } from './recipe';

/** Zones that a step works in: its own, and those that have a method of their own. */
export function zonesOf(step: StepChoice): string[] {
  const own = 'zone' in step && step.zone ? [step.zone] : [];
  return step.kind === 'enlarge' ? [...own, ...step.settings.parts.map(({ zone }) => zone)] : own;
}

/** Takes a zone out of a treatment: steps that it limited work everywhere again. */
export function forgetZone(treatment: Treatment, id: string): void {
  for (const step of treatment) {
    if ('zone' in step && step.zone === id) delete step.zone;
    if (step.kind === 'enlarge') {
      step.settings.parts = step.settings.parts.filter(({ zone }) => zone !== id);
    }
  }
}
