import { z } from 'zod';
import { cleanLearned, learnedInput } from '../../learned/cleaner';
import { formatNumber } from '../../measure/format';
import { lengthOf } from '../../raster/portable-math';
import { automatic, Engine, engineControl, LEARNED_CLEANER, ModelDigest } from '../automatic';
import type { Step } from '../step';
import { denoise, denoiseInput } from './denoise';
import { say } from '../../words/say';

/** The strongest noise that is taken out, as a standard deviation in levels. */
export const SIGMA_LIMIT = 50;
/** Noise below so many levels is left alone when it is for the application to decide. */
const NOTHING = 0.8;

export const NoiseSettings = z.object({
  engine: Engine,
  /** standard deviation in luminance, levels; automatic: as it was measured */
  luma: automatic(0, SIGMA_LIMIT),
  /** … and in colour */
  colour: automatic(0, SIGMA_LIMIT),
});
export type NoiseSettings = z.infer<typeof NoiseSettings>;

const sigma = z
  .number()
  .min(0)
  .max(2 * SIGMA_LIMIT);

/** Noise on the axes of the basis that it is taken out in, levels. */
export const NoiseNumbers = z.object({
  grey: sigma,
  colour: sigma,
  model: ModelDigest.default(null),
});
export type NoiseNumbers = z.infer<typeof NoiseNumbers>;

/** White noise of 1 in R, G, B leaves so much in luminance and in the colour differences. */
const IN_LUMA = lengthOf(0.299, 0.587, 0.114);
const IN_COLOUR = 0.64;

/** Takes noise out of luminance and of colour, each as strong as it is. */
export const noise: Step<'noise', NoiseSettings, NoiseNumbers> = {
  kind: 'noise',
  title: say`Noise`,
  blurb: say`Grain in brightness and in colour.`,
  rank: 20,
  phases: ['original'],
  settings: NoiseSettings,
  numbers: NoiseNumbers,
  defaults: { engine: 'learned', luma: 'auto', colour: 'auto' },
  controls: [
    engineControl('noise'),
    {
      ...{ form: 'slider', setting: 'luma', label: say`Luminance`, min: 0, max: SIGMA_LIMIT },
      ...{ step: 0.5, unit: 'levels', automatic: ({ noise: found }) => found.luma },
    },
    {
      ...{ form: 'slider', setting: 'colour', label: say`Colour`, min: 0, max: SIGMA_LIMIT },
      ...{ step: 0.5, unit: 'levels', automatic: ({ noise: found }) => found.colour },
    },
  ],
  cost: ({ model }) => 0.9 + (model ? LEARNED_CLEANER : 0),

  resolve(settings, { noise: measured, models }) {
    const chosen = (value: 'auto' | number, found: number) =>
      value !== 'auto' ? value : found < NOTHING ? 0 : Math.min(found, SIGMA_LIMIT);
    const grey = chosen(settings.luma, measured.luma) / IN_LUMA;
    const colour = chosen(settings.colour, measured.colour) / IN_COLOUR;
    if (grey === 0 && colour === 0) return null;
    return { grey, colour, model: settings.engine === 'learned' ? models.noise : null };
  },

  scaled: (numbers) => numbers,

  size: (_, from) => from,

  inputRegion: ({ model }, region, { from }) =>
    denoiseInput(model ? learnedInput(region, from) : region, from),

  async apply(input, { grey, colour, model }, region, { from }, beside) {
    const network = model && (await beside.network(model));
    const estimated = network ? learnedInput(region, from) : region;
    const estimate = denoise(input, estimated, from, { grey, colour });
    if (!network) return estimate;
    return cleanLearned(network, input, { region: estimated, raster: estimate }, region, from, {
      severity: { luma: 0, colour: 0 },
      halved: false,
      noise: Math.max(grey, colour),
      blocks: null,
    });
  },

  summary: ({ luma, colour }, strength) =>
    say`noise ${luma === 'auto' || colour === 'auto' ? say`auto` : formatNumber(Math.max(luma, colour), 1)}${strength < 100 ? ` · ${strength} %` : ''}`,
};
