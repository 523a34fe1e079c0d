import { z } from 'zod';
import { cut } from '../../raster/raster';
import type { Step } from '../step';

export const InsetSettings = z.object({
  /** the trial whose result is laid over this one's; none yet */
  trial: z.string().max(40).nullable(),
});
export type InsetSettings = z.infer<typeof InsetSettings>;

/** A settled step, as far as it can be told without knowing all steps; `insetSteps` knows them. */
const AnySettled = z.looseObject({
  kind: z.string(),
  strength: z.number(),
  numbers: z.looseObject({}),
});

/** What leads from the original to another picture of the same size; nothing, where shapes are drawn at it. */
export const InsetNumbers = z.object({ steps: z.array(AnySettled).max(64) });
export type InsetNumbers = z.infer<typeof InsetNumbers>;

/**
 * Lays over the picture, in a zone, what other steps make of the same original: another method's
 * enlargement, or another trial's result. Rendering follows both ways from the original on; the stage
 * itself changes nothing.
 */
export const inset = {
  kind: 'inset',
  title: 'From another trial',
  phases: ['target'],
  settings: InsetSettings,
  numbers: InsetNumbers,
  defaults: { trial: null },

  settle({ trial }, { settledTrial }) {
    const steps = trial === null ? null : settledTrial(trial);
    return steps && { steps };
  },

  scaled: (numbers) => numbers,

  afar: (numbers) => numbers,

  size: (_, from) => from,

  pull: (_, region) => region,

  apply: (input, _, region) => cut(input, region),

  summary: ({ trial }, strength) =>
    trial === null ? 'no trial yet' : `${strength} % of another trial`,
} satisfies Step<'inset', InsetSettings, InsetNumbers>;
