import { z } from 'zod';
import { luminance } from '../../raster/colour';
import { cut } from '../../raster/raster';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { eachPixel, medianOf, neighbourhood, rise } from '../neighbours';
import type { Step } from '../step';

export const SpecksSettings = z.object({
  /** how far a pixel must stand out from those about it, in levels */
  threshold: z.number().min(1).max(128),
});
export type SpecksSettings = z.infer<typeof SpecksSettings>;

export const SpecksNumbers = z.object({ threshold: z.number().positive() });
export type SpecksNumbers = z.infer<typeof SpecksNumbers>;

/**
 * Replaces single wrong pixels by the median of those about them, and leaves all others: a
 * conditional median. A pixel is wrong where it is the lightest or darkest of its neighbourhood, and
 * farther from its median than the threshold beyond what its neighbours are.
 */
export const specks = {
  kind: 'specks',
  title: 'Specks',
  phases: ['original'],
  settings: SpecksSettings,
  numbers: SpecksNumbers,
  defaults: { threshold: 24 },

  settle: ({ threshold }) => ({ threshold: threshold * LEVEL }),
  scaled: (numbers) => numbers,
  size: (_, from) => from,
  pull: (_, region, { from }) => grow(region, 1, from),

  apply(input, { threshold }, region, { from }) {
    const result = cut(input, region);
    const luma = luminance(input.raster);
    const { region: covered, raster } = input;
    const around = new Float32Array(8);
    eachPixel(input, region, (at, i, x, y) => {
      const { left, top, right, bottom } = neighbourhood(x, y, 1, from);
      const here = luma[at]!;
      let count = 0;
      for (let v = top; v <= bottom; v++)
        for (let u = left; u <= right; u++) {
          if (u === x && v === y) continue;
          around[count++] = luma[(v - covered.y) * covered.width + u - covered.x]!;
        }
      const middle = medianOf(around, count);
      // How far the neighbours themselves reach on that side; a line or a corner has company there.
      const second = here > middle ? around[count - 2]! : around[1]!;
      const beyond = Math.abs(here - middle) - Math.abs(second - middle);
      const share = rise(beyond, threshold, threshold * 1.25);
      if (share === 0) return;
      raster.planes.slice(0, 3).forEach((plane, c) => {
        let n = 0;
        for (let v = top; v <= bottom; v++)
          for (let u = left; u <= right; u++) {
            if (u === x && v === y) continue;
            around[n++] = plane[(v - covered.y) * covered.width + u - covered.x]!;
          }
        const median = medianOf(around, n);
        result.planes[c]![i]! += share * (median - plane[at]!);
      });
    });
    return result;
  },

  summary: ({ threshold }) => `specks ${threshold}`,
} satisfies Step<'specks', SpecksSettings, SpecksNumbers>;
