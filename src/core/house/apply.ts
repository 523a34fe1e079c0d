import { canonicalJson } from '../recipe/canonical';
import { branchTrial } from '../recipe/trials';
import type { Treatment, Trial, Work } from '../recipe/work';
import type { StepChoice } from '../steps';
import type { Zone } from '../zone/zone';
import type { HouseContent } from './house-recipe';
import type { HouseVersion } from './house-version';

/** A recipe with its name and version. */
export type NamedContent = HouseVersion & { content: HouseContent };

/**
 * Begins a trial by a house recipe, in place: as a copy of another one, whose paper-bound decisions (resolution, form of
 * the file) it keeps where the recipe says nothing of them.
 * @returns the new trial, or null where there are as many as can be
 */
export function tryRecipe(work: Work, from: Trial, recipe: NamedContent): Trial | null {
  return branchTrial(work, from, (trial) => {
    putRecipe(work, trial, recipe);
    trial.name = freeTrialName(work, trial, recipe.name);
  });
}

/** A name that no other trial of a work has. */
export function freeTrialName({ trials }: Pick<Work, 'trials'>, own: Trial, name: string): string {
  const taken = new Set(trials.filter(({ id }) => id !== own.id).map((one) => one.name));
  let free = name;
  for (let n = 2; taken.has(free); n++) free = `${name.slice(0, 56)} ${n}`;
  return free;
}

/** Treats a trial by a house recipe, in place. Zones that the work has already serve it; others join them. */
export function putRecipe(work: Work, trial: Trial, { content, ...of }: NamedContent): void {
  const { id, version, name } = of;
  putTreatment(work, trial, content);
  trial.name = name;
  if (content.ppi !== null) trial.ppi = content.ppi;
  if (content.output) trial.output = structuredClone(content.output);
  trial.house = { id, version, name };
}

/** Treats a trial as something else was treated, in place, with its zones. */
export function putTreatment(
  work: Work,
  trial: Trial,
  {
    treatment,
    guards,
    zones,
  }: Pick<HouseContent, 'treatment' | 'guards'> & { zones: readonly Zone[] },
): void {
  const ids = joinZones(work, zones);
  trial.treatment = treatment.map((step) => inZones(structuredClone(step), ids));
  trial.guards = { ...guards };
}

/** Puts zones into a work, in place. Returns what each is called there. */
function joinZones(work: Work, zones: readonly Zone[]): Map<string, string> {
  const ids = new Map<string, string>();
  const wanted = new Set(work.zones.map(({ id }) => id));
  for (const zone of zones) {
    const same = work.zones.find((one) => alike(one, zone));
    const id = same?.id ?? freeId(zone.id, wanted);
    ids.set(zone.id, id);
    wanted.add(id);
  }
  for (const zone of zones) {
    const id = ids.get(zone.id)!;
    if (work.zones.some((one) => one.id === id)) continue;
    const parts = zone.parts.map((part) =>
      part.kind === 'zone' ? { ...part, id: ids.get(part.id) ?? part.id } : part,
    );
    work.zones.push({ ...zone, id, parts });
  }
  return ids;
}

/** Whether two zones hold the same; one that is joined from others may hold something else. */
const alike = (one: Zone, other: Zone): boolean =>
  !one.parts.some(({ kind }) => kind === 'zone') &&
  canonicalJson({ ...one, id: '' }) === canonicalJson({ ...other, id: '' });

function freeId(id: string, taken: ReadonlySet<string>): string {
  let free = id;
  for (let n = 2; taken.has(free); n++) free = `${id.slice(0, 36)}-${n}`;
  return free;
}

function inZones(step: StepChoice, ids: ReadonlyMap<string, string>): StepChoice {
  if (step.zone) step.zone = ids.get(step.zone) ?? step.zone;
  if ('parts' in step.settings) {
    for (const part of step.settings.parts) part.zone = ids.get(part.zone) ?? part.zone;
  }
  return step;
}

/** Whether a trial is still treated as the recipe that it was begun by says. */
export function followsRecipe(
  { treatment, guards }: Pick<Trial, 'treatment' | 'guards'>,
  content: Pick<HouseContent, 'treatment' | 'guards'>,
): boolean {
  // What zones are called differs from work to work.
  const plain = (list: Treatment) =>
    list.map((step) => {
      const copy = structuredClone(step);
      if (copy.zone) copy.zone = 'zone';
      if ('parts' in copy.settings) for (const part of copy.settings.parts) part.zone = 'zone';
      return copy;
    });
  return (
    canonicalJson([plain(treatment), guards]) ===
    canonicalJson([plain(content.treatment), content.guards])
  );
}
