import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LengthUnit, pixelsOf } from '../length';
import { alterRows, looksAtSoftLuminance } from '../soft-luminance';
import type { Step } from '../step';
import { say } from '../../words/say';

/** How a filtered layer is blended over luminance, as the kernel counts them. */
export const BLENDS = ['overlay', 'soft light', 'linear light'] as const;

/** The largest radius in pixels of the result. */
const RADIUS_LIMIT = 60;

export const HighpassSettings = z.object({
  /** standard deviation of the blur that is taken away, in `unit` */
  radius: z.number().min(0.01).max(RADIUS_LIMIT),
  unit: LengthUnit,
  blend: z.enum(BLENDS),
});
export type HighpassSettings = z.infer<typeof HighpassSettings>;

export const HighpassNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  blend: z.enum(BLENDS),
  /** whether the filtered layer itself is the result, for looking at it */
  layer: z.boolean().default(false),
});
export type HighpassNumbers = z.infer<typeof HighpassNumbers>;

/**
 * High-pass on luminance: what a Gaussian blur takes away, about middle grey, blended over the picture. Its opacity
 * is the step's strength.
 */
export const highpass: Step<'highpass', HighpassSettings, HighpassNumbers> = {
  kind: 'highpass',
  title: say`High-pass`,
  blurb: say`Fine structure laid over, by a blend.`,
  rank: 180,
  phases: ['target'],
  settings: HighpassSettings,
  numbers: HighpassNumbers,
  defaults: { radius: 0.4, unit: 'mm', blend: 'overlay' },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: say`Radius` },
      most: { px: RADIUS_LIMIT, mm: 10 },
    },
    {
      ...{ form: 'choice', setting: 'blend', label: say`Blend` },
      options: [
        { value: 'overlay', label: say`Overlay` },
        { value: 'soft light', label: say`Soft light` },
        { value: 'linear light', label: say`Linear light` },
      ],
    },
  ],

  resolve: ({ radius, unit, blend }, context) => ({
    radius: Math.min(pixelsOf(radius, unit, context), RADIUS_LIMIT),
    blend,
    layer: false,
  }),

  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(numbers.radius * scale, 0.001) }),
  size: (_, from) => from,
  ...looksAtSoftLuminance<HighpassNumbers>(({ radius }) => radius),
  neighbourhood: ({ radius }) => radius,
  layer: { title: say`the filtered layer`, numbers: (numbers) => ({ ...numbers, layer: true }) },

  apply(input, { radius, blend, layer: shown }, region, { from }, { reduced }) {
    const mode = BLENDS.indexOf(blend);
    return alterRows(input, reduced, radius, region, from, (memory, { out, luma, soft }, n) => {
      if (shown) memory.highpassRow(out, luma, soft, n);
      else memory.blendHighpassRow(out, luma, soft, mode, n);
    });
  },

  summary: ({ radius, unit, blend }, strength) =>
    say`high-pass ${formatNumber(radius)} ${unit} · ${blend}${strength < 100 ? ` · ${strength} %` : ''}`,
};
