import { lowered, stepOfKind } from '../steps';
import { forOtherPictures } from '../recipe/treatment-file';
import { RECIPE_VERSION } from '../recipe/versions';
import type { Trial } from '../recipe/work';
import { zonesOf } from '../recipe/zone-use';
import { joinedFrom, type Zone } from '../zone/zone';
import { say } from '../words/say';
import type { HouseContent } from './house-recipe';

/** What of a trial is kept besides its steps. */
export interface Keeping extends Pick<HouseContent, 'kind' | 'material' | 'note'> {
  /** its resolution */
  ppi: boolean;
  /** how its results are written */
  output: boolean;
}

/** A trial as it serves other pictures: what is relative stays so, what was done by hand on this one is left out. */
export function houseContent(
  trial: Pick<Trial, 'name' | 'treatment' | 'guards' | 'ppi' | 'output'>,
  zones: readonly Zone[],
  { kind, material, note, ppi, output }: Keeping,
): HouseContent {
  const kept = forOtherPictures(trial, zones);
  const used = joinedFrom(kept.treatment.flatMap(zonesOf), kept.zones);
  return {
    version: RECIPE_VERSION,
    ...{ kind, material, note },
    treatment: kept.treatment,
    guards: kept.guards,
    zones: kept.zones.filter(({ id }) => used.has(id)).map((zone) => ({ ...zone, painted: null })),
    ppi: ppi ? trial.ppi : null,
    output: output ? trial.output : null,
  };
}

/** What of a trial belongs to its picture alone and is not kept, in words. */
export function leftOut(
  trial: Pick<Trial, 'name' | 'treatment' | 'guards'>,
  zones: readonly Zone[],
): string[] {
  const kept = forOtherPictures(trial, zones);
  const computed = new Set(kept.zones.map(({ id }) => id));
  const words: string[] = [];
  for (const { kind, zone } of trial.treatment) {
    const { title, belongsTo } = stepOfKind(kind);
    const what = lowered(title);
    if (belongsTo === 'picture') words.push(say`${what}: spots lie where they are on this picture`);
    else if (belongsTo === 'work') words.push(say`${what}: it takes from another trial`);
    else if (zone && !computed.has(zone)) {
      const name = zones.find(({ id }) => id === zone)?.name ?? zone;
      words.push(say`${what} in “${name}”, which was painted`);
    }
  }
  for (const { id, name, painted } of zones) {
    if (painted && computed.has(id)) words.push(say`what was painted on “${name}”`);
  }
  return words;
}
