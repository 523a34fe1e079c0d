import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { cutPlane } from '../../raster/raster';
import { LIGHTNESS } from '../../raster/form';
import { LEVEL } from '../../raster/samples';
import { LengthUnit, pixelsOf } from '../length';
import type { Step } from '../step';
import { grains } from './grains';
import { say } from '../../words/say';

/** The widest grains, in pixels of the result. */
const SIZE_LIMIT = 400;
const percent = z.number().min(0).max(100);

export const GrainSettings = z.object({
  /** how wide a grain is, in `unit` */
  size: z.number().min(0.02).max(SIZE_LIMIT),
  unit: LengthUnit,
  /** standard deviation in middle tones, in levels */
  amount: z.number().min(0).max(30),
  /** how much of it are coarser grains, three and nine times as large, in % */
  coarse: percent,
  /** how much of the amount there is in the dark, and in the light, in % */
  shadows: percent,
  lights: percent,
});
export type GrainSettings = z.infer<typeof GrainSettings>;

const share = z.number().min(0).max(1);

export const GrainNumbers = z.object({
  /** in pixels of the result */
  size: z.number().positive().max(SIZE_LIMIT),
  /** on the 0–1 scale */
  amount: z.number().min(0),
  coarse: share,
  shadows: share,
  lights: share,
});
export type GrainNumbers = z.infer<typeof GrainNumbers>;

/** Sizes of the coarser ones, in grains. */
const COARSER = [3, 9] as const;
/** Tones so near to black and to white lose their grain: white stays the paper's. */
const PLAIN = 0.04;
/** Grains narrower than a pixel run together, as they do on the print from where they are looked at. */
const NARROW = 0.6;

/**
 * Grain on luminance, sized in mm on paper, by tone: it covers a surface that is too smooth, and holds a large flat
 * area together. It follows from the place alone.
 */
export const grain: Step<'grain', GrainSettings, GrainNumbers> = {
  kind: 'grain',
  title: say`Grain`,
  blurb: say`Covers a surface too smooth, holds flat areas together.`,
  rank: 280,
  phases: ['target'],
  settings: GrainSettings,
  numbers: GrainNumbers,
  defaults: { size: 0.4, unit: 'mm', amount: 3, coarse: 20, shadows: 60, lights: 40 },
  controls: [
    {
      ...{
        form: 'length',
        setting: 'size',
        unitSetting: 'unit',
        label: say`Grain size`,
        least: 0.02,
      },
      most: { px: 60, mm: 5 },
    },
    {
      ...{ form: 'slider', setting: 'amount', label: say`Amount`, min: 0, max: 30 },
      ...{ step: 0.5, unit: 'levels' },
    },
    {
      form: 'slider',
      setting: 'coarse',
      label: say`Coarser grains`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
    },
    {
      ...{ form: 'slider', setting: 'shadows', label: say`In shadows`, min: 0, max: 100 },
      ...{ step: 1, unit: '%' },
    },
    {
      ...{ form: 'slider', setting: 'lights', label: say`In lights`, min: 0, max: 100 },
      ...{ step: 1, unit: '%' },
    },
  ],
  changes: 'luminance',
  cost: ({ coarse }) => (coarse > 0 ? 0.06 : 0.04),

  resolve({ size, unit, amount, coarse, shadows, lights }, context) {
    if (amount === 0) return null;
    return {
      size: Math.min(SIZE_LIMIT, pixelsOf(size, unit, context)),
      amount: amount * LEVEL,
      ...{ coarse: coarse / 100, shadows: shadows / 100, lights: lights / 100 },
    };
  },

  scaled: (numbers, scale) => {
    const size = numbers.size * scale;
    const left = Math.min(1, size / NARROW);
    return { ...numbers, size: Math.max(size, 0.01), amount: numbers.amount * left };
  },
  size: (_, from) => from,
  inputRegion: (_, region) => region,

  apply({ region: covered, raster }, { size, amount, coarse, shadows, lights }, region) {
    const plane = cutPlane(raster.planes[0]!, covered, region);
    const fine = grains(region, size);
    const wide = coarse > 0 ? COARSER.map((times, k) => grains(region, times * size, k + 1)) : [];
    // Layers don't follow from each other: their variances add up to one.
    const [ofFine, ofWide] = [Math.sqrt(1 - coarse), Math.sqrt(coarse / COARSER.length)];
    for (let i = 0; i < plane.length; i++) {
      let noise = ofFine * fine[i]!;
      for (const layer of wide) noise += ofWide * layer[i]!;
      plane[i]! += amount * strengthAt(plane[i]!, shadows, lights) * noise;
    }
    return { width: region.width, height: region.height, form: LIGHTNESS, planes: [plane] };
  },

  summary: ({ size, unit, amount }, strength) =>
    amount === 0
      ? say`no grain`
      : say`grain ${formatNumber(size)} ${unit} · ${formatNumber(amount)}${strength < 100 ? ` · ${strength} %` : ''}`,
};

/** How much grain a tone gets: all in the middle, none in black and white. */
function strengthAt(tone: number, shadows: number, lights: number): number {
  if (tone <= 0 || tone >= 1) return 0;
  const rim = tone < 0.5 ? shadows : lights;
  const middle = 1 - Math.abs(2 * tone - 1);
  const near = Math.min(1, Math.min(tone, 1 - tone) / PLAIN);
  return near * (rim + (1 - rim) * middle);
}
