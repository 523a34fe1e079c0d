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

/**
 * What is asked for, whole: where the command line says nothing of what is done, as it is proposed for each picture. A
 * recipe is read once, so that all are treated alike whatever becomes of it meanwhile.
 */
export async function wholeRequest(options: BatchOptions): Promise<BatchOptions> {
  if (options.longest && (options.width || options.height || options.scale)) {
    throw new Problem('usage', 'Give --longest, or the sides, or --scale.');
  }
  const { method, linear, limit, sharpen } = options;
  const says = method !== 'auto' || linear || limit !== 0 || sharpen || !enlargesAlone(options);
  if (!says) return { ...options, recipe: AS_PROPOSED };
  const { recipe, data } = options;
  return typeof recipe !== 'string' || recipe === AS_PROPOSED
    ? options
    : { ...options, recipe: await recipeBy(recipe, data) };
}

/** Whether nothing of it depends on what a picture suffers from, so that nobody has to look for that. */
export const needsNoLook = (options: BatchOptions): boolean =>
  Plain.safeParse(options.method).success && enlargesAlone(options);

/** What is ordered of one of the pictures. */
export function orderOf(options: BatchOptions, size: Size): BatchOptions {
  const { longest } = options;
  if (!longest) return options;
  return { ...options, [size.width >= size.height ? 'width' : 'height']: longest };
}

/** A name for all that results follow from besides their pictures. */
export async function digestOfRequest({
  json: _,
  data: __,
  ...options
}: BatchOptions): Promise<string> {
  const { treatment } = options;
  const asked = {
    ...options,
    core: CORE_VERSION,
    treatment: treatment && (await readSmallFile(treatment, 'treatment')),
  };
  return digestOfValue(JSON.parse(canonicalJson(asked)));
}
