import { z } from 'zod';
import { cut } from '../../raster/raster';
import { grow } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { eachPixel, medianOf, neighbourhood, linearStep } from '../neighbours';
import type { Step } from '../step';
import { say } from '../../words/say';

export const SpecksSettings = z.object({
  /** how far a pixel must stand out from those about it, in levels */
  threshold: z.number().min(1).max(128),
});
export type SpecksSettings = z.infer<typeof SpecksSettings>;

export const SpecksNumbers = z.object({ threshold: z.number().positive() });
export type SpecksNumbers = z.infer<typeof SpecksNumbers>;

/**
 * Replaces single wrong pixels by the median of those about them, and leaves all others: a
 * conditional median. A pixel is wrong where in some channel it lies farther from the median of its
 * neighbours than the farthest of them, by the threshold.
 */
export const specks = {
  kind: 'specks',
  title: say`Specks`,
  blurb: say`Single wrong pixels.`,
  rank: 30,
  phases: ['original'],
  settings: SpecksSettings,
  numbers: SpecksNumbers,
  defaults: { threshold: 24 },
  controls: [
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Stands out by` },
      ...{ min: 1, max: 128, step: 1, unit: 'levels' },
    },
  ],
  cost: () => 0.95,

  resolve: ({ threshold }) => ({ threshold: threshold * LEVEL }),
  scaled: (numbers) => numbers,
  size: (_, from) => from,
  inputRegion: (_, region, { from }) => grow(region, 1, from),

  apply(input, { threshold }, region, { from }) {
    const result = cut(input, region);
    const { region: covered, raster } = input;
    const colours = raster.planes.slice(0, 3);
    const around = colours.map(() => new Float32Array(8));
    eachPixel(input, region, (at, i, x, y) => {
      const { left, top, right, bottom } = neighbourhood(x, y, 1, from);
      let beyond = 0;
      const medians = colours.map((plane, c) => {
        let count = 0;
        let least = Infinity;
        let most = -Infinity;
        for (let v = top; v <= bottom; v++)
          for (let u = left; u <= right; u++) {
            if (u === x && v === y) continue;
            const value = plane[(v - covered.y) * covered.width + u - covered.x]!;
            least = Math.min(least, value);
            most = Math.max(most, value);
            around[c]![count++] = value;
          }
        const middle = medianOf(around[c]!, count);
        const here = plane[at]!;
        // Lines and corners have company among their neighbours; a wrong pixel has none.
        const nearest = here > middle ? most : least;
        beyond = Math.max(beyond, Math.abs(here - middle) - Math.abs(nearest - middle));
        return middle;
      });
      const share = linearStep(beyond, threshold, threshold * 1.25);
      if (share === 0) return;
      colours.forEach((plane, c) => (result.planes[c]![i]! += share * (medians[c]! - plane[at]!)));
    });
    return result;
  },

  summary: ({ threshold }) => say`specks ${threshold}`,
} satisfies Step<'specks', SpecksSettings, SpecksNumbers>;
