import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LEVEL } from '../../raster/samples';
import { alterRows, looksAtSoftLuminance } from '../soft-luminance';
import type { Step } from '../step';
import { inPixels, spreadAndEye, surfaceOf, SURFACES } from './surfaces';
import { say } from '../../words/say';

/** The largest radius in pixels of the result. */
const RADIUS_LIMIT = 60;
/** More than this share of what is lost is never put back at once: it would show as rims from nearby. */
const AMOUNT_LIMIT = 3;

export const PaperSettings = z.object({
  /** what ink spreads on; automatic: by the material of the job */
  surface: z.enum(['auto', ...SURFACES]),
  /** differences below so many levels stay as they are */
  threshold: z.number().min(0).max(32),
});
export type PaperSettings = z.infer<typeof PaperSettings>;

export const PaperNumbers = z.object({
  /** standard deviation of ink spread and eye together, in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  /** factor on the difference */
  amount: z.number().min(0).max(AMOUNT_LIMIT),
  /** on the 0–1 scale */
  threshold: z.number().min(0),
});
export type PaperNumbers = z.infer<typeof PaperNumbers>;

/**
 * The last sharpening, for what ink spread and the eye take away: an unsharp mask whose blur is theirs, by so much
 * that detail at which sharpness is judged keeps its contrast. With m of it left, (1 + amount x (1 - m)) x m = 1.
 */
export const paper: Step<'paper', PaperSettings, PaperNumbers> = {
  kind: 'paper',
  title: say`For paper`,
  blurb: say`What ink spread and the eye take away, put back.`,
  rank: 300,
  phases: ['target'],
  settings: PaperSettings,
  numbers: PaperNumbers,
  defaults: { surface: 'auto', threshold: 1 },
  controls: [
    {
      ...{ form: 'choice', setting: 'surface', label: say`Printed on` },
      options: [
        { value: 'auto', label: say`as ordered` },
        ...SURFACES.map((value) => ({ value, label: value })),
      ],
    },
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Threshold` },
      ...{ min: 0, max: 32, step: 0.5, unit: 'levels' },
    },
  ],

  resolve({ surface, threshold }, { plan, material, distance }) {
    const on = surface === 'auto' ? surfaceOf(material) : surface;
    const { together, left } = spreadAndEye(on, distance);
    return {
      radius: Math.min(RADIUS_LIMIT, inPixels(together, plan.ppiAfter)),
      amount: Math.min(AMOUNT_LIMIT, 1 / left),
      threshold: threshold * LEVEL,
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(numbers.radius * scale, 0.001) }),
  size: (_, from) => from,
  ...looksAtSoftLuminance<PaperNumbers>(({ radius }) => radius),
  neighbourhood: ({ radius }) => radius,

  apply: (input, { radius, amount, threshold }, region, { from }, { reduced }) =>
    alterRows(input, reduced, radius, region, from, (memory, { out, luma, soft }, n) =>
      memory.unsharpRow(out, luma, soft, amount, amount, threshold, n),
    ),

  summary: ({ surface, threshold }, strength) =>
    say`for ${surface === 'auto' ? say`its paper` : surface} · ${formatNumber(threshold)}${strength < 100 ? ` · ${strength} %` : ''}`,
};
