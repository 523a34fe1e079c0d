import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { MM_PER_INCH } from '../../measure/units';
import { luminance } from '../../raster/colour';
import { cut } from '../../raster/raster';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import type { Step } from '../step';
import { blur, gaussianReach } from './gaussian';

/** The largest radius in pixels of the result; it bounds the step's reach. */
export const RADIUS_LIMIT = 60;

export const SharpenSettings = z.object({
  /** standard deviation of the blur, in `unit` */
  radius: z.number().min(0.01).max(RADIUS_LIMIT),
  /** px of the result, or mm on paper: then the effect looks alike at any ppi */
  unit: z.enum(['px', 'mm']),
  /** how much of the difference is added, in % */
  amount: z.number().min(0).max(500),
  /** differences below so many levels (0–255) stay as they are */
  threshold: z.number().min(0).max(64),
});
export type SharpenSettings = z.infer<typeof SharpenSettings>;

export const SharpenNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  /** factor on the difference */
  amount: z.number().min(0),
  /** on the 0–1 scale */
  threshold: z.number().min(0),
});
export type SharpenNumbers = z.infer<typeof SharpenNumbers>;

/**
 * Unsharp mask on luminance: what a Gaussian blur takes away is added again, alike to R, G and B,
 * so that hues stay. Differences are reduced by the threshold rather than switched by it, so that
 * no rim shows where it is crossed.
 */
export const sharpen = {
  kind: 'sharpen',
  title: 'Sharpen',
  phases: ['target'],
  settings: SharpenSettings,
  numbers: SharpenNumbers,
  defaults: { radius: 0.3, unit: 'mm', amount: 80, threshold: 2 },

  settle(settings, { plan }) {
    if (settings.amount === 0) return null;
    const pixels =
      settings.unit === 'px' ? settings.radius : (settings.radius / MM_PER_INCH) * plan.ppiAfter;
    return {
      radius: Math.min(pixels, RADIUS_LIMIT),
      amount: settings.amount / 100,
      threshold: settings.threshold * LEVEL,
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(numbers.radius * scale, 0.001) }),

  size: (_, from) => from,

  pull: (numbers, region, { from }) => grow(region, gaussianReach(numbers.radius), from),

  apply(input, numbers, region, { from }) {
    const result = cut(input, region);
    const luma = luminance(input.raster);
    const soft = blur(luma, input.region, region, from, numbers.radius);
    const { amount, threshold } = numbers;
    const [red, green, blue] = result.planes as [Float32Array, Float32Array, Float32Array];
    for (let y = 0, i = 0; y < region.height; y++) {
      let at = (region.y + y - input.region.y) * input.region.width + region.x - input.region.x;
      for (let x = 0; x < region.width; x++, i++, at++) {
        const difference = luma[at]! - soft[i]!;
        const beyond = Math.abs(difference) - threshold;
        if (beyond <= 0) continue;
        const added = amount * (difference < 0 ? -beyond : beyond);
        red[i]! += added;
        green[i]! += added;
        blue[i]! += added;
      }
    }
    return result;
  },

  summary: ({ radius, unit, amount, threshold }) =>
    amount === 0
      ? 'no sharpening'
      : `${formatNumber(radius)} ${unit} · ${formatNumber(amount)} % · ${formatNumber(threshold)}`,
} satisfies Step<'sharpen', SharpenSettings, SharpenNumbers>;
