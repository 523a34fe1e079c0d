import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { luminance } from '../../raster/colour';
import { expNegative } from '../../raster/portable-math';
import { cut } from '../../raster/raster';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { eachPixel, neighbourhood } from '../neighbours';
import type { Step } from '../step';

/** The largest radius in pixels; the cost grows with its square. */
export const SMOOTH_LIMIT = 6;

export const SmoothSettings = z.object({
  /** standard deviation of the window in pixels of the grid where the step stands */
  radius: z.number().min(0.01).max(SMOOTH_LIMIT),
  /** differences beyond so many levels stay */
  threshold: z.number().min(0.5).max(64),
});
export type SmoothSettings = z.infer<typeof SmoothSettings>;

const reach = (radius: number): number => Math.max(1, Math.ceil(2.5 * radius));

/** Values of a bell over differences of luminance, read between. */
const BELL = Float64Array.from({ length: 1026 }, (_, i) => expNegative(-((i / 1024) * 9) / 2));

/**
 * Smooths what hardly differs and keeps edges: the bilateral filter (Tomasi & Manduchi 1998), with
 * differences taken in luminance so that all channels keep the same edges.
 */
export const smooth = {
  kind: 'smooth',
  title: 'Smooth',
  phases: ['original', 'target'],
  settings: SmoothSettings,
  numbers: SmoothSettings,
  defaults: { radius: 1.5, threshold: 8 },

  settle: (settings) => settings,
  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(0.01, numbers.radius * scale) }),
  size: (_, from) => from,
  pull: ({ radius }, region, { from }) => grow(region, reach(radius), from),

  apply(input, { radius, threshold }, region, { from }) {
    const result = cut(input, region);
    const { region: covered, raster } = input;
    const luma = luminance(raster);
    const r = reach(radius);
    const side = 2 * r + 1;
    const window = Float64Array.from({ length: side * side }, (_, k) => {
      const dx = (k % side) - r;
      const dy = Math.floor(k / side) - r;
      return expNegative(-(dx * dx + dy * dy) / (2 * radius * radius));
    });
    const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
    const [toRed, toGreen, toBlue] = result.planes as [Float32Array, Float32Array, Float32Array];
    // The bell ends at three thresholds; squares of differences lead into its table.
    const intoBell = 1024 / (9 * (threshold * LEVEL) ** 2);
    eachPixel(input, region, (at, i, x, y) => {
      const { left, top, right, bottom } = neighbourhood(x, y, r, from);
      const here = luma[at]!;
      let sumRed = 0;
      let sumGreen = 0;
      let sumBlue = 0;
      let total = 0;
      for (let v = top; v <= bottom; v++) {
        let k = (v - covered.y) * covered.width + left - covered.x;
        let w = (v - y + r) * side + left - x + r;
        for (let u = left; u <= right; u++, k++, w++) {
          const difference = luma[k]! - here;
          const place = difference * difference * intoBell;
          if (place >= 1024) continue;
          const low = Math.floor(place);
          const bell = BELL[low]! + (place - low) * (BELL[low + 1]! - BELL[low]!);
          const weight = window[w]! * bell;
          sumRed += weight * red[k]!;
          sumGreen += weight * green[k]!;
          sumBlue += weight * blue[k]!;
          total += weight;
        }
      }
      toRed[i] = sumRed / total;
      toGreen[i] = sumGreen / total;
      toBlue[i] = sumBlue / total;
    });
    return result;
  },

  summary: ({ radius, threshold }) =>
    `smooth ${formatNumber(radius)} px · ${formatNumber(threshold)}`,
} satisfies Step<'smooth', SmoothSettings, SmoothSettings>;
