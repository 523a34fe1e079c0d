import { join } from 'node:path';
import type { Models } from '@/core/learned/models';
import type { Format } from '@/core/output/formats';
import { originalOf, type Original } from '@/core/recipe/original';
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

export async function prepared(
  decoded: Input,
  format: Format,
  options: OrderOptions & TreatmentOptions & OutputOptions,
): Promise<Prepared> {
  const { findings, raw, file, folder } = decoded;
  const masks = join(folder, 'masks');
  const treated = await treatedBy(options, findings, findings.vector ? null : raw, masks);
  const given = await profileOf(options);
  const output = outputOf(options, format, findings, given);
  const work = workOf(options, findings, output, treated);
  const pictures = await picturesOnPage(decoded);
  treatOnPage(
    work,
    pictures,
    options.treatment || options.recipe ? null : (of) => cleaningBy(options, of),
  );
  const original = originalOf(await digestOfFile(file), findings, pictures);
  return { masks, pictures, given, work, original, models: await usableModels() };
}
