import { join } from 'node:path';
import type { Findings } from '@/core/inspect/findings';
import type { Models } from '@/core/learned/models';
import type { Format } from '@/core/output/formats';
import { originalOf, type Original } from '@/core/recipe/original';
import { propose } from '@/core/recipe/propose';
import type { Work } from '@/core/recipe/work';
import type { ReadProfile } from '@/server/colour/profiles';
import { digestOfFile } from '@/server/files/digest';
import { usableModels } from '@/server/files/models';
import type { Input } from './input';
import type { OrderOptions, TreatmentOptions } from './options';
import { outputOf, profileOf, type OutputOptions } from './output';
import { picturesOnPage, treatOnPage, type InputOnPage } from './placed';
import { cleaningBy, treatedBy } from './treatment';
import { workOf } from './work';

/** What a command line asks for, put together with its picture. */
export interface Prepared {
  /** folder of painted masks */
  masks: string;
  pictures: InputOnPage[];
  /** the profile that it is converted to, or null */
  given: ReadProfile | null;
  work: Work;
  original: Original;
  models: Models;
}

/** The recipe that is none of the house: what the application proposes for each picture. */
export const AS_PROPOSED = 'auto';

/** Treats a picture, and those on its page, as a first trial would be. */
function treatAsProposed(work: Work, findings: Findings, pictures: readonly InputOnPage[]): void {
  const [trial] = work.trials;
  const { paper, distance, framing } = work;
  const order = { paper, distance, page: framing.page, ppi: trial!.ppi };
  const { work: proposed } = propose(findings, order, pictures);
  const { treatment, guards, placed } = proposed.trials[0]!;
  Object.assign(work, { zones: proposed.zones, placed: proposed.placed });
  Object.assign(trial!, { treatment, guards, placed });
}

export async function prepared(
  decoded: Input,
  format: Format,
  options: OrderOptions & TreatmentOptions & OutputOptions,
): Promise<Prepared> {
  const { findings, raw, file, folder } = decoded;
  const masks = join(folder, 'masks');
  const asProposed = options.recipe === AS_PROPOSED;
  const treated = asProposed
    ? undefined
    : await treatedBy(options, findings, findings.vector ? null : raw, masks);
  const given = await profileOf(options);
  const output = outputOf(options, format, findings, given);
  const work = workOf(options, findings, output, treated);
  const pictures = await picturesOnPage(decoded);
  if (asProposed) treatAsProposed(work, findings, pictures);
  else {
    const byFile = options.treatment ?? options.recipe;
    treatOnPage(work, pictures, byFile ? null : (of) => cleaningBy(options, of));
  }
  const original = originalOf(await digestOfFile(file), findings, pictures);
  return { masks, pictures, given, work, original, models: await usableModels() };
}
