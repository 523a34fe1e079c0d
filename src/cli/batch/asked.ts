import { paperBy, type SizeRule } from '@/core/batch/rule';
import type { Length } from '@/core/measure/units';
import type { Format } from '@/core/output/formats';
import type { Size } from '@/core/raster/region';
import { canonicalJson, digestOfValue } from '@/core/recipe/canonical';
import { CORE_VERSION } from '@/core/recipe/recipe';
import { Plain } from '@/core/steps/enlarge/methods';
import { Problem } from '@/server/problem';
import type { OrderOptions, TreatmentOptions } from '../options';
import type { OutputOptions } from '../output';
import { AS_PROPOSED } from '../prepared';
import { recipeBy } from '../recipe';
import { readSmallFile } from '../small-file';

export interface BatchOptions extends OrderOptions, TreatmentOptions, OutputOptions {
  /** the longest side of each print */
  longest?: Length;
  format: Format;
  /** of the shop whose recipes are named */
  data?: string;
}

/** A treatment that does nothing but enlarge, by whichever method. */
const UNTREATED = {
  ...{ clean: 0, noise: 0, texture: 0, tones: 0, heal: 'off' },
  ...{ restore: undefined, treatment: undefined, recipe: undefined },
} as const;

const enlargesAlone = (options: BatchOptions): boolean =>
  (Object.keys(UNTREATED) as (keyof typeof UNTREATED)[]).every(
    (name) => options[name] === UNTREATED[name],
  );

/** What is asked for, whole: where the command line says nothing of what is done, as it is proposed for each picture. */
export function wholeRequest(options: BatchOptions): BatchOptions {
  if (options.longest && (options.width || options.height || options.scale)) {
    throw new Problem('usage', 'Give --longest, or the sides, or --scale.');
  }
  const { method, linear, limit, sharpen } = options;
  const says = method !== 'auto' || linear || limit !== 0 || sharpen || !enlargesAlone(options);
  return says ? options : { ...options, recipe: AS_PROPOSED };
}

/** Whether nothing of it depends on what a picture suffers from, so that nobody has to look for that. */
export const needsNoLook = (options: BatchOptions): boolean =>
  Plain.safeParse(options.method).success && enlargesAlone(options);

/** What is ordered of one of the pictures. */
export function orderOf(options: BatchOptions, size: Size): BatchOptions {
  const { longest, fit } = options;
  if (!longest) return options;
  const rule: SizeRule = { by: 'longest', length: longest };
  const { width, height } = paperBy({ size: rule, fit }, size)!;
  return { ...options, ...(width && { width }), ...(height && { height }) };
}

/** A name for all that results follow from besides their pictures. */
export async function digestOfRequest({
  json: _,
  data,
  ...options
}: BatchOptions): Promise<string> {
  const { treatment, recipe } = options;
  const asked = {
    ...options,
    core: CORE_VERSION,
    treatment: treatment && (await readSmallFile(treatment, 'treatment')),
    recipe: recipe && (recipe === AS_PROPOSED ? recipe : await recipeBy(recipe, data)),
  };
  return digestOfValue(JSON.parse(canonicalJson(asked)));
}
