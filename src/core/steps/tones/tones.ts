import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LUMA } from '../../raster/colour';
import { powerOfTwo } from '../../raster/portable-math';
import { cut } from '../../raster/raster';
import type { Step } from '../step';
import { say } from '../../words/say';

const percent = z.number().min(-100).max(100);

export const TonesSettings = z.object({
  /** how far black and white points are brought back, in % */
  points: z.number().min(0).max(100),
  /** how far each colour is brought back by points of its own, in %: that takes a cast, and the colour of the light too */
  cast: z.number().min(0).max(100).default(100),
  /** stops */
  exposure: z.number().min(-3).max(3),
  contrast: percent,
  saturation: percent,
  /** yellow against blue */
  warmth: percent,
});
export type TonesSettings = z.infer<typeof TonesSettings>;

const channels = z.tuple([z.number(), z.number(), z.number()]);

/** Each channel becomes gain x value + offset, then the curve and the colour follow. */
export const TonesNumbers = z.object({
  gain: channels,
  offset: channels,
  /** slope in the middle, 1 for none */
  contrast: z.number().positive(),
  /** factor on the distance from grey */
  saturation: z.number().min(0),
});
export type TonesNumbers = z.infer<typeof TonesNumbers>;

/** The least range of a channel that is stretched to the whole: a tenth. */
const LEAST_RANGE = 0.1;
/** Encoded values go up so much with each stop. */
const PER_STOP = 1 / 2.2;
/** What full warmth does to red and blue. */
const WARMEST = 0.18;

/** Percent to either side of nothing. */
const AROUND = { min: -100, max: 100, step: 1, unit: '%' } as const;

/** Brings faded tones back: black and white points, cast, exposure, contrast, saturation, warmth. */
export const tones = {
  kind: 'tones',
  title: say`Tones`,
  blurb: say`Faded black and white, cast, exposure.`,
  rank: 80,
  phases: ['original'],
  settings: TonesSettings,
  numbers: TonesNumbers,
  defaults: { points: 100, cast: 100, exposure: 0, contrast: 0, saturation: 0, warmth: 0 },
  controls: [
    {
      form: 'slider',
      setting: 'points',
      label: say`Black and white points`,
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
    },
    {
      ...{ form: 'slider', setting: 'cast', label: say`Each colour by its own` },
      ...{ min: 0, max: 100, step: 1, unit: '%' },
    },
    {
      ...{ form: 'slider', setting: 'exposure', label: say`Exposure` },
      ...{ min: -3, max: 3, step: 0.05, unit: 'stops' },
    },
    { form: 'slider', setting: 'contrast', label: say`Contrast`, ...AROUND },
    { form: 'slider', setting: 'saturation', label: say`Saturation`, ...AROUND },
    { form: 'slider', setting: 'warmth', label: say`Warmth`, ...AROUND },
  ],
  cost: () => 0.1,

  resolve(settings, { tones: found }) {
    const { points, cast, exposure, contrast, saturation, warmth } = settings;
    const own = cast / 100;
    const common = { black: Math.min(...found.black), white: Math.max(...found.white) };
    /** a point of a colour, between its own and that of all */
    const pointOf = (which: 'black' | 'white', c: number) =>
      common[which] + own * (found[which][c]! - common[which]);
    const light = powerOfTwo(exposure * PER_STOP);
    const warm = (warmth / 100) * WARMEST;
    const tint = [1 + warm, 1, 1 - warm];
    const lines = [0, 1, 2].map((c) => {
      const black = (points / 100) * pointOf('black', c);
      const white = 1 - (points / 100) * (1 - pointOf('white', c));
      const gain = (light * tint[c]!) / Math.max(LEAST_RANGE, white - black);
      return { gain, offset: -black * gain };
    });
    const numbers: TonesNumbers = {
      gain: [lines[0]!.gain, lines[1]!.gain, lines[2]!.gain],
      offset: [lines[0]!.offset, lines[1]!.offset, lines[2]!.offset],
      contrast: powerOfTwo(contrast / 100),
      saturation: 1 + saturation / 100,
    };
    const nothing =
      lines.every(({ gain, offset }) => Math.abs(gain - 1) < 1e-6 && Math.abs(offset) < 1e-6) &&
      numbers.contrast === 1 &&
      numbers.saturation === 1;
    return nothing ? null : numbers;
  },

  scaled: (numbers) => numbers,
  proxy: (numbers) => numbers,
  size: (_, from) => from,
  inputRegion: (_, region) => region,

  apply(input, { gain, offset, contrast, saturation }, region) {
    const result = cut(input, region);
    const [red, green, blue] = result.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < red.length; i++) {
      const r = curve(gain[0] * red[i]! + offset[0], contrast);
      const g = curve(gain[1] * green[i]! + offset[1], contrast);
      const b = curve(gain[2] * blue[i]! + offset[2], contrast);
      const grey = LUMA.red * r + LUMA.green * g + LUMA.blue * b;
      red[i] = grey + saturation * (r - grey);
      green[i] = grey + saturation * (g - grey);
      blue[i] = grey + saturation * (b - grey);
    }
    return result;
  },

  share: ({ points }: TonesSettings, strength: number) => Math.round((points * strength) / 100),
  summary: ({ points, exposure }: TonesSettings, strength: number) => {
    const brought = say`tones ${Math.round((points * strength) / 100)}`;
    return exposure === 0 ? brought : say`${brought} · ${formatNumber(exposure)} stops`;
  },
} satisfies Step<'tones', TonesSettings, TonesNumbers>;

/**
 * Contrast about the middle that keeps black and white: v / (v + slope' (1 - v)) forms, which stay
 * within 0–1 and need nothing that engines round differently. Values beyond stay where they are.
 */
function curve(value: number, slope: number): number {
  if (slope === 1 || value <= 0 || value >= 1) return value;
  const low = value < 0.5;
  const half = low ? value * 2 : 2 - value * 2;
  const curved = half / (half + slope * (1 - half));
  return low ? curved / 2 : 1 - curved / 2;
}
