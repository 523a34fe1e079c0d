import type { StepChoice } from '../steps';
import type { Work } from './work';

/** Zones with a setting of their own inside a step, such as other methods to enlarge. */
const partsOf = ({ settings }: StepChoice): { zone: string }[] =>
  'parts' in settings ? settings.parts : [];

/** Zones that a step works in: its own, and those that have a setting of their own. */
export const zonesOf = (step: StepChoice): string[] => [
  ...(step.zone ? [step.zone] : []),
  ...partsOf(step).map(({ zone }) => zone),
];

/** A step with the settings of those zones alone that stay. */
export function withZones(step: StepChoice, stays: (zone: string) => boolean): StepChoice {
  if (!('parts' in step.settings)) return step;
  const parts = step.settings.parts.filter(({ zone }) => stays(zone));
  return { ...step, settings: { ...step.settings, parts } } as StepChoice;
}

/**
 * Takes a zone out of a work, in place: steps that it limited work everywhere again, and zones that were joined from it
 * lose that part.
 */
export function forgetZone(work: Pick<Work, 'zones' | 'trials'>, id: string): void {
  work.zones = work.zones.filter((zone) => zone.id !== id);
  for (const zone of work.zones) {
    zone.parts = zone.parts.filter((part) => part.kind !== 'zone' || part.id !== id);
  }
  for (const { treatment } of work.trials) {
    treatment.forEach((step, i) => {
      if (step.zone === id) {
        delete step.zone;
        delete step.elsewhere;
      }
      treatment[i] = withZones(step, (zone) => zone !== id);
    });
  }
}
