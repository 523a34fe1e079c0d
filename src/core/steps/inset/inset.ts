import { z } from 'zod';
import type { Choosable, Numbered, Resolvable } from '../step';
import { say } from '../../words/say';

export const InsetSettings = z.object({
  /** the trial whose result is laid over this one's; none yet */
  trial: z.string().max(40).nullable(),
});
export type InsetSettings = z.infer<typeof InsetSettings>;

/** A resolved step, as far as it can be told without knowing all steps; `insetSteps` knows them. */
const AnyStep = z.looseObject({
  kind: z.string(),
  strength: z.number(),
  numbers: z.looseObject({}),
});

/** What leads from the original to another picture of the same size; nothing, where shapes are drawn at it. */
export const InsetNumbers = z.object({ steps: z.array(AnyStep).max(64) });
export type InsetNumbers = z.infer<typeof InsetNumbers>;

/**
 * Lays over the picture, in a zone, what other steps make of the same original: another method's
 * enlargement, or another trial's result. No stage: the graph has both ways, and what blends them.
 */
export const inset = {
  kind: 'inset',
  title: say`From another trial`,
  blurb: say`What another trial makes of a zone.`,
  rank: 100,
  phases: ['target'],
  settings: InsetSettings,
  numbers: InsetNumbers,
  defaults: { trial: null },
  // Which trials there are, the interface knows.
  controls: [],
  belongsTo: 'work',
  cost: () => 0.02,

  resolve({ trial }, { trialSteps }) {
    const steps = trial === null ? null : trialSteps(trial);
    return steps && { steps };
  },

  scaled: (numbers) => numbers,

  proxy: (numbers) => numbers,

  size: (_, from) => from,

  summary: ({ trial }, strength) =>
    trial === null ? say`no trial yet` : say`${strength} % of another trial`,
} satisfies Choosable<'inset', InsetSettings> &
  Numbered<'inset', InsetNumbers> &
  Resolvable<InsetSettings, InsetNumbers>;
