import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { luminance } from '../../raster/colour';
import { cut, pixelsOver } from '../../raster/raster';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { automatic } from '../automatic';
import { blur, gaussianReach } from '../../raster/gaussian';
import type { Step } from '../step';
import { grains } from '../grain/grains';
import { LIGHTNESS } from '../../raster/form';
import { say } from '../../words/say';

export const TextureSettings = z.object({
  /** what cleaning took that is finer than `finer`, in % */
  returned: z.number().min(0).max(100),
  /** standard deviation of the blur that what is returned is finer than, px */
  finer: z.number().min(0.3).max(4),
  /** new grain, as a standard deviation in levels; automatic: what was measured */
  grain: automatic(0, 20),
  /** px of the grid where the step stands */
  grainSize: z.number().min(0.5).max(6),
});
export type TextureSettings = z.infer<typeof TextureSettings>;

export const TextureNumbers = z.object({
  returned: z.number().min(0).max(1),
  finer: z.number().positive(),
  /** on the 0–1 scale */
  grain: z.number().min(0),
  grainSize: z.number().positive(),
});
export type TextureNumbers = z.infer<typeof TextureNumbers>;

/**
 * Gives the surface back what keeps it from looking like plastic: the finest detail of luminance
 * that steps before it took, and grain.
 */
export const texture: Step<'texture', TextureSettings, TextureNumbers> = {
  kind: 'texture',
  title: say`Texture`,
  blurb: say`What cleaning took of the finest, given back.`,
  rank: 90,
  phases: ['original', 'target'],
  settings: TextureSettings,
  numbers: TextureNumbers,
  defaults: { returned: 30, finer: 1.2, grain: 0, grainSize: 0.7 },
  controls: [
    {
      form: 'slider',
      setting: 'returned',
      label: say`Detail given back`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
    },
    {
      form: 'slider',
      setting: 'finer',
      label: say`Finer than`,
      min: 0.3,
      max: 4,
      step: 0.1,
      unit: 'px',
    },
    {
      ...{ form: 'slider', setting: 'grain', label: say`New grain`, min: 0, max: 20 },
      ...{ step: 0.5, unit: 'levels', automatic: ({ noise }) => noise.luma },
    },
    {
      ...{ form: 'slider', setting: 'grainSize', label: say`Grain size` },
      ...{ min: 0.5, max: 6, step: 0.1, unit: 'px' },
    },
  ],
  cost: () => 0.06,

  resolve({ returned, finer, grain: chosen, grainSize }, { noise }) {
    const levels = chosen === 'auto' ? Math.min(20, noise.luma) : chosen;
    if (returned === 0 && levels === 0) return null;
    return { returned: returned / 100, finer, grain: levels * LEVEL, grainSize };
  },

  scaled: (numbers, scale) => ({
    ...numbers,
    finer: Math.max(0.05, numbers.finer * scale),
    grainSize: Math.max(0.05, numbers.grainSize * scale),
  }),
  size: (_, from) => from,
  inputRegion: ({ finer }, region, { from }) => grow(region, gaussianReach(finer), from),

  looksAtUntreated: ({ returned }) => returned > 0,

  apply(input, numbers, region, { from }, { untreated }) {
    const result = cut(input, region);
    const added = new Float32Array(region.width * region.height);
    if (numbers.returned > 0) {
      const covered = grow(region, gaussianReach(numbers.finer), from);
      const before = luminance(pixelsOver(untreated!, covered));
      const after = luminance(pixelsOver(input, covered));
      const taken = before.map((value, i) => value - after[i]!);
      const coarse = blur(taken, covered, region, from, numbers.finer);
      const { width, height } = covered;
      const lightness = { width, height, form: LIGHTNESS, planes: [taken] };
      const fine = cut({ region: covered, raster: lightness }, region);
      for (let i = 0; i < added.length; i++) {
        added[i] = numbers.returned * (fine.planes[0]![i]! - coarse[i]!);
      }
    }
    if (numbers.grain > 0) {
      const luma = luminance(result);
      const grained = grains(region, numbers.grainSize);
      for (let i = 0; i < added.length; i++) {
        // None in black and white, as on film.
        const tone = Math.min(1, Math.max(0, luma[i]!));
        added[i]! += numbers.grain * grained[i]! * (0.35 + 2.6 * tone * (1 - tone));
      }
    }
    for (const plane of result.planes.slice(0, 3)) {
      for (let i = 0; i < added.length; i++) plane[i]! += added[i]!;
    }
    return result;
  },

  summary: ({ returned, grain: levels }) =>
    [
      ...(returned > 0 ? [say`texture ${returned}`] : []),
      ...(levels === 'auto'
        ? [say`grain auto`]
        : levels > 0
          ? [say`grain ${formatNumber(levels)}`]
          : []),
    ].join(' · ') || say`no texture`,
};
