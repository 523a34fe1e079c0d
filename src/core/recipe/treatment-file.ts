import { z } from 'zod';
import { Guards } from '../guard/guards';
import { stepOfKind } from '../steps';
import { joinedFrom, Painted, Zone } from '../zone/zone';
import { isJson, openForm, readForm } from './read-form';
import { RECIPE_VERSION, treatmentFileForward } from './versions';
import { Treatment, type Trial } from './work';
import { withZones, zonesOf } from './zone-use';

/** What a treatment file begins with; its version is the recipe's. */
const FORM = 'treatment';

/** A zone in a file carries what was painted: gzip of its bytes, in base64. */
const FiledZone = Zone.extend({
  painted: Painted.extend({ bytes: z.base64() }).nullable(),
});
export type FiledZone = z.infer<typeof FiledZone>;

/** A treatment on its own: its steps and the zones that they work in, as JSON. */
export const TreatmentFile = z.object({
  form: z.literal(FORM),
  version: z.literal(RECIPE_VERSION),
  name: Zone.shape.name,
  treatment: Treatment,
  guards: Guards,
  zones: z.array(FiledZone).max(40),
});
export type TreatmentFile = z.infer<typeof TreatmentFile>;

/**
 * Reads a treatment file's text.
 * @returns the treatment, or in one sentence what is wrong with it
 */
export function readTreatmentFile(
  text: string,
): { ok: true; file: TreatmentFile } | { ok: false; reason: string } {
  const opened = openForm(text);
  if (opened?.form !== FORM) {
    return {
      ok: false,
      reason: opened || isJson(text) ? 'It is not a treatment.' : 'It is not JSON.',
    };
  }
  const read = readForm(opened, TreatmentFile, treatmentFileForward);
  return read.ok ? { ok: true, file: read.value } : read;
}

/** Steps that a file can carry: other trials, which may be laid over a picture, are not in it. */
export const alone = (treatment: Treatment): Treatment =>
  treatment.filter(({ kind }) => stepOfKind(kind).belongsTo !== 'work');

/**
 * A trial's treatment, whole but for what it takes from other trials.
 * @param bytesOf what was painted on a zone: gzip of a mask's bytes
 */
export async function fileOf(
  trial: Pick<Trial, 'treatment' | 'guards' | 'name'>,
  zones: readonly Zone[],
  bytesOf: (painted: Painted) => Promise<Uint8Array>,
): Promise<TreatmentFile> {
  const treatment = alone(trial.treatment);
  const used = joinedFrom(treatment.flatMap(zonesOf), zones);
  const filed = zones
    .filter(({ id }) => used.has(id))
    .map(async ({ painted, ...zone }): Promise<FiledZone> => {
      if (!painted) return { ...zone, painted };
      let letters = '';
      for (const byte of await bytesOf(painted)) letters += String.fromCharCode(byte);
      return { ...zone, painted: { ...painted, bytes: btoa(letters) } };
    });
  return {
    form: FORM,
    version: RECIPE_VERSION,
    name: trial.name,
    treatment,
    guards: trial.guards,
    zones: await Promise.all(filed),
  };
}

/**
 * What of a trial is kept for other pictures: automatic choices stay automatic, computed zones stay;
 * what was painted and which spots were healed belong to one picture alone.
 */
export function forOtherPictures(
  trial: Pick<Trial, 'treatment' | 'guards' | 'name'>,
  zones: readonly Zone[],
): TreatmentFile {
  const kept = zones.filter((zone) => isComputed(zone, zones));
  const ids = new Set(kept.map(({ id }) => id));
  return {
    form: FORM,
    version: RECIPE_VERSION,
    name: trial.name,
    guards: trial.guards,
    // A step that was limited by painting alone would work everywhere: it is left out, as is another
    // method in such a zone.
    treatment: alone(trial.treatment).flatMap((step): Treatment => {
      if (stepOfKind(step.kind).belongsTo === 'picture') return [];
      return step.zone && !ids.has(step.zone) ? [] : [withZones(step, (id) => ids.has(id))];
    }),
    zones: kept.map((zone) => ({ ...zone, painted: null })),
  };
}

/** Whether anything of a zone is left without what was painted. */
const isComputed = (zone: Zone, zones: readonly Zone[]): boolean =>
  zone.inverted ||
  zone.parts.some((part) => {
    if (part.kind !== 'zone') return true;
    const others = zones.filter(({ id }) => id !== zone.id);
    const other = others.find(({ id }) => id === part.id);
    return other !== undefined && isComputed(other, others);
  });

/** A filed zone as a work keeps it. */
export function unfiled({ painted, ...zone }: FiledZone): Zone {
  if (!painted) return { ...zone, painted };
  const { digest, width, height } = painted;
  return { ...zone, painted: { digest, width, height } };
}
