import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { factorOf } from '../../measure/plan';
import { LIGHTNESS } from '../../raster/form';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { automatic } from '../automatic';
import type { ResolveContext, Step } from '../step';
import { inverseOf, inverseReach } from './inverse';
import type { Spread } from './point-spread';
import { restored } from './restore';
import { say } from '../../words/say';

/** The widest blurs that are undone, in pixels of the grid where the step stands. */
const GAUSSIAN_LIMIT = 4.5;
const DISC_LIMIT = 7;
const MOTION_LIMIT = 24;
/** Blur below this, in pixels, is none. */
const NOTHING = 0.3;

export const DeblurSettings = z.object({
  form: z.enum(['measured', 'gaussian', 'disc', 'motion']),
  /** standard deviation of a Gaussian, or radius of a disc, px of the original; automatic: as measured */
  radius: automatic(0.3, DISC_LIMIT),
  /** of a motion, px of the original */
  length: z.number().min(1).max(MOTION_LIMIT),
  /** of a motion: degrees, 0 across and 90 down */
  angle: z.number().min(0).max(180),
  /** how much noise is held back, in %: the more, the less is undone */
  calm: z.number().min(0).max(100),
});
export type DeblurSettings = z.infer<typeof DeblurSettings>;

const spread: z.ZodType<Spread> = z.discriminatedUnion('form', [
  z.object({ form: z.literal('gaussian'), radius: z.number().positive().max(GAUSSIAN_LIMIT) }),
  z.object({ form: z.literal('disc'), radius: z.number().positive().max(DISC_LIMIT) }),
  z.object({
    form: z.literal('motion'),
    length: z.number().positive().max(MOTION_LIMIT),
    angle: z.number(),
  }),
]);

export const DeblurNumbers = z.object({
  spread,
  /** standard deviation of luminance noise, on the 0–1 scale */
  noise: z.number().min(0),
  /** power of noise over that of the finest detail */
  calm: z.number().positive(),
});
export type DeblurNumbers = z.infer<typeof DeblurNumbers>;

/** The blur that is undone, in pixels of the original; null where there is none. */
function chosenSpread(
  { form, radius, length, angle }: DeblurSettings,
  { blur }: Pick<ResolveContext, 'blur'>,
): Spread | null {
  if (form === 'motion') return { form, length, angle };
  if (form !== 'measured' && radius !== 'auto') return { form, radius };
  const moved = form === 'measured' ? blur?.motion : null;
  if (moved) return { form: 'motion', length: moved.length, angle: (moved.angle + 180) % 180 };
  const disc = form === 'gaussian' ? null : blur?.disc;
  if (disc) return { form: 'disc', radius: disc.radius };
  const sigma = blur?.sigma ?? 0;
  if (sigma < NOTHING) return null;
  // A disc of that radius has the variance of the Gaussian.
  return form === 'disc' ? { form, radius: 2 * sigma } : { form: 'gaussian', radius: sigma };
}

/** What an automatic radius comes to. */
function radiusFor(settings: DeblurSettings, found: Pick<ResolveContext, 'blur'>): number {
  const one = chosenSpread({ ...settings, radius: 'auto' }, found);
  return one && one.form !== 'motion' ? one.radius : 0;
}

/** The same blur on a grid `scale` times as fine, as far as it can be undone there. */
function onGrid(one: Spread, scale: number): Spread {
  switch (one.form) {
    case 'gaussian':
      return { ...one, radius: Math.min(GAUSSIAN_LIMIT, Math.max(0.05, one.radius * scale)) };
    case 'disc':
      return { ...one, radius: Math.min(DISC_LIMIT, Math.max(0.05, one.radius * scale)) };
    case 'motion':
      return { ...one, length: Math.min(MOTION_LIMIT, Math.max(0.05, one.length * scale)) };
  }
}

const lengthOf = (one: Spread): number => (one.form === 'motion' ? one.length : one.radius);

/**
 * How wide the blur is on a grid `scale` times as fine, and how much of it can be undone there, in its pixels; null where
 * there is none, or all of it can.
 */
export function beyondReach(
  settings: DeblurSettings,
  found: Pick<ResolveContext, 'blur'>,
  scale: number,
): { wide: number; undone: number } | null {
  const chosen = chosenSpread(settings, found);
  if (!chosen) return null;
  const [wide, undone] = [lengthOf(chosen) * scale, lengthOf(onGrid(chosen, scale))];
  return undone < wide ? { wide, undone } : null;
}

/** Of noise of a level in luminance, and of a blur of a pixel: what undid most on outside photographs. */
const CALM = 0.05;

const sizeOf = (one: Spread): number =>
  one.form === 'motion' ? one.length / 3 : one.form === 'disc' ? one.radius / 2 : one.radius;

/** Undoes blur on luminance by deconvolution. */
export const deblur: Step<'deblur', DeblurSettings, DeblurNumbers> = {
  kind: 'deblur',
  title: say`Deblur`,
  blurb: say`Undoes a lens out of focus, or a hand that moved.`,
  rank: 30,
  phases: ['original', 'target'],
  settings: DeblurSettings,
  numbers: DeblurNumbers,
  defaults: { form: 'measured', radius: 'auto', length: 6, angle: 0, calm: 50 },
  restsOnGrid: true,
  controls: [
    {
      ...{ form: 'choice', setting: 'form', label: say`Blur` },
      options: [
        { value: 'measured', label: say`as measured` },
        { value: 'gaussian', label: say`soft` },
        { value: 'disc', label: say`out of focus` },
        { value: 'motion', label: say`moved` },
      ],
    },
    {
      ...{
        form: 'slider',
        setting: 'radius',
        label: say`Radius`,
        min: 0.3,
        max: DISC_LIMIT,
        step: 0.05,
      },
      ...{ unit: 'px', automatic: (found, settings) => radiusFor(settings, found) },
      shown: ({ form }) => form === 'gaussian' || form === 'disc',
    },
    {
      ...{ form: 'slider', setting: 'length', label: say`Length`, min: 1, max: MOTION_LIMIT },
      ...{ step: 0.5, unit: 'px', shown: ({ form }) => form === 'motion' },
    },
    {
      ...{ form: 'slider', setting: 'angle', label: say`Direction`, min: 0, max: 180 },
      ...{ step: 1, unit: '°', shown: ({ form }) => form === 'motion' },
    },
    {
      form: 'slider',
      setting: 'calm',
      label: say`Noise held back`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
    },
  ],
  changes: 'luminance',
  cost: ({ spread: one }) => 0.05 + 0.0001 * (2 * inverseReach(one) + 1) ** 2,

  resolve(settings, context) {
    const chosen = chosenSpread(settings, context);
    if (!chosen) return null;
    const one = onGrid(chosen, context.phase === 'original' ? 1 : factorOf(context.plan));
    // Rounding is noise too; on a finer grid it is spread over more pixels.
    const levels = Math.sqrt(context.noise.luma ** 2 + 0.25);
    return {
      spread: one,
      noise: levels * LEVEL,
      calm: CALM * sizeOf(one) * levels * levels * 4 ** ((settings.calm - 50) / 25),
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, spread: onGrid(numbers.spread, scale) }),
  size: (_, from) => from,
  inputRegion: ({ spread: one }, region, { from }) => grow(region, inverseReach(one) + 2, from),
  neighbourhood: ({ spread: one }) => 1 + sizeOf(one),

  apply({ region: covered, raster }, { spread: one, noise, calm }, region, { from }) {
    const taps = inverseOf(one, calm);
    const [luma] = raster.planes as [Float32Array];
    const plane = restored(luma, covered, region, from, taps, noise);
    return { width: region.width, height: region.height, form: LIGHTNESS, planes: [plane] };
  },

  summary({ form, radius, length, angle }, strength) {
    const what =
      form === 'measured'
        ? say`as measured`
        : form === 'motion'
          ? say`moved ${formatNumber(length)} px at ${formatNumber(angle)}°`
          : `${radius === 'auto' ? say`auto` : say`${formatNumber(radius)} px`}`;
    return say`deblur ${what}${strength < 100 ? ` · ${strength} %` : ''}`;
  },
};
