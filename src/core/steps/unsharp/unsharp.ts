import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LEVEL } from '../../raster/samples';
import { LengthUnit, pixelsOf } from '../length';
import { alterRows, looksAtSoftLuminance } from '../soft-luminance';
import type { Step } from '../step';
import { say } from '../../words/say';

/** The largest radius in pixels of the result; it bounds the step's reach. */
export const RADIUS_LIMIT = 60;

export const UnsharpSettings = z.object({
  /** standard deviation of the blur, in `unit` */
  radius: z.number().min(0.01).max(RADIUS_LIMIT),
  unit: LengthUnit,
  /** how much of the difference is added, in % */
  amount: z.number().min(0).max(500),
  /** differences below so many levels (0–255) stay as they are */
  threshold: z.number().min(0).max(64),
  /** share of the amount on the light and on the dark side of edges, in % */
  light: z.number().min(0).max(100).default(100),
  dark: z.number().min(0).max(100).default(100),
});
export type UnsharpSettings = z.infer<typeof UnsharpSettings>;

export const UnsharpNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  /** factor on the difference */
  amount: z.number().min(0),
  /** shares of it where pixels become lighter, and darker */
  light: z.number().min(0).max(1).default(1),
  dark: z.number().min(0).max(1).default(1),
  /** on the 0–1 scale */
  threshold: z.number().min(0),
});
export type UnsharpNumbers = z.infer<typeof UnsharpNumbers>;

/**
 * Unsharp mask on luminance: what a Gaussian blur takes away is added again. Differences are reduced by the threshold rather than switched by it, so that
 * no rim shows where it is crossed.
 */
export const unsharp = {
  kind: 'unsharp',
  title: say`Unsharp mask`,
  blurb: say`Edges crisper, on luminance.`,
  rank: 200,
  phases: ['target'],
  settings: UnsharpSettings,
  numbers: UnsharpNumbers,
  defaults: { radius: 0.3, unit: 'mm', amount: 80, threshold: 2, light: 100, dark: 100 },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: say`Radius` },
      most: { px: RADIUS_LIMIT, mm: 5 },
    },
    { form: 'slider', setting: 'amount', label: say`Amount`, min: 0, max: 300, step: 1, unit: '%' },
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Threshold` },
      ...{ min: 0, max: 32, step: 0.5, unit: 'levels' },
    },
    {
      ...{ form: 'slider', setting: 'light', label: say`Light side of edges` },
      ...{ min: 0, max: 100, step: 1, unit: '%' },
    },
    {
      ...{ form: 'slider', setting: 'dark', label: say`Dark side of edges` },
      ...{ min: 0, max: 100, step: 1, unit: '%' },
    },
  ],

  resolve({ radius, unit, amount, threshold, light, dark }, context) {
    if (amount === 0 || (light === 0 && dark === 0)) return null;
    return {
      radius: Math.min(pixelsOf(radius, unit, context), RADIUS_LIMIT),
      amount: amount / 100,
      light: light / 100,
      dark: dark / 100,
      threshold: threshold * LEVEL,
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(numbers.radius * scale, 0.001) }),
  size: (_, from) => from,
  ...looksAtSoftLuminance<UnsharpNumbers>(({ radius }) => radius),
  neighbourhood: ({ radius }) => radius,

  apply(input, { radius, amount, light, dark, threshold }, region, { from }, { reduced }) {
    return alterRows(input, reduced, radius, region, from, (memory, { out, luma, soft }, n) => {
      memory.unsharpRow(out, luma, soft, amount * light, amount * dark, threshold, n);
    });
  },

  summary: ({ radius, unit, amount, threshold }) =>
    amount === 0
      ? say`no sharpening`
      : `${formatNumber(radius)} ${unit} · ${formatNumber(amount)} % · ${formatNumber(threshold)}`,
  share: ({ amount }, strength) => Math.round((amount * strength) / 100),
} satisfies Step<'unsharp', UnsharpSettings, UnsharpNumbers>;
