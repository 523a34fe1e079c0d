import { z } from 'zod';
import { toYCbCr } from '../../raster/colour';
import { cut } from '../../raster/raster';
import { grow } from '../../raster/region';
import { eachPixel, medianOf, neighbourhood, linearStep } from '../neighbours';
import type { Step } from '../step';
import { say } from '../../words/say';

const RADIUS_LIMIT = 8;

export const FringesSettings = z.object({
  /** how wide the fringes are, in pixels */
  radius: z.int().min(1).max(RADIUS_LIMIT),
  /** edges below this slope are taken for free of them, levels a pixel */
  threshold: z.number().min(1).max(64),
});
export type FringesSettings = z.infer<typeof FringesSettings>;

/** A pixel's lightness between those of both sides of its edge from which on it is of one of them. */
const OF_ONE_SIDE = 0.15;

/**
 * Takes coloured rims off hard edges: there colour becomes the median of the colours about, which
 * rims, narrower than the window, don't sway. A pixel on the edge itself is a mixture of both sides, and gets their colours
 * as its lightness is mixed: with those of one side alone it would be a rim of its own. Luminance stays.
 */
export const fringes = {
  kind: 'fringes',
  title: say`Fringes`,
  blurb: say`Coloured halos on hard edges.`,
  rank: 40,
  phases: ['original'],
  settings: FringesSettings,
  numbers: FringesSettings,
  defaults: { radius: 3, threshold: 12 },
  controls: [
    {
      form: 'slider',
      setting: 'radius',
      label: say`Width`,
      min: 1,
      max: RADIUS_LIMIT,
      step: 1,
      unit: 'px',
    },
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Edges from` },
      ...{ min: 1, max: 64, step: 1, unit: 'levels' },
    },
  ],
  cost: () => 7,

  resolve: (settings) => settings,
  scaled: (numbers) => numbers,
  size: (_, from) => from,
  inputRegion: ({ radius }, region, { from }) => grow(region, 2 * radius, from),

  apply(input, { radius, threshold }, region, { from }) {
    const result = cut(input, region);
    const { region: covered } = input;
    const { y: luma, cb, cr } = toYCbCr(input.raster);
    const side = 4 * radius + 1;
    const around = new Float32Array(side * side);
    const [red, green, blue] = result.planes as [Float32Array, Float32Array, Float32Array];
    const index = (u: number, v: number) => (v - covered.y) * covered.width + u - covered.x;
    eachPixel(input, region, (at, i, x, y) => {
      const near = neighbourhood(x, y, radius, from);
      let steepest = 0;
      let least = Infinity;
      let most = -Infinity;
      for (let v = near.top; v <= near.bottom; v++)
        for (let u = near.left; u <= near.right; u++) {
          const k = index(u, v);
          least = Math.min(least, luma[k]!);
          most = Math.max(most, luma[k]!);
          if (u > near.left) steepest = Math.max(steepest, Math.abs(luma[k]! - luma[k - 1]!));
          if (v > near.top) {
            steepest = Math.max(steepest, Math.abs(luma[k]! - luma[k - covered.width]!));
          }
        }
      const share = linearStep(steepest, threshold, 2 * threshold);
      if (share === 0) return;
      const wide = neighbourhood(x, y, 2 * radius, from);
      // The two sides of an edge have colours of their own.
      const middle = (least + most) / 2;
      const median = (plane: Float32Array, side: boolean): number => {
        let among = 0;
        for (let v = wide.top; v <= wide.bottom; v++)
          for (let u = wide.left; u <= wide.right; u++) {
            const k = index(u, v);
            if (luma[k]! >= middle === side) around[among++] = plane[k]!;
          }
        return medianOf(around, among);
      };
      const [dark, light] = [median(luma, false), median(luma, true)];
      const between = (luma[at]! - dark) / (light - dark);
      const mixed = linearStep(between, OF_ONE_SIDE, 1 - OF_ONE_SIDE);
      const colour = (plane: Float32Array): number => {
        if (mixed === 0) return median(plane, false);
        if (mixed === 1) return median(plane, true);
        return mixed * median(plane, true) + (1 - mixed) * median(plane, false);
      };
      const blueBy = share * (colour(cb) - cb[at]!);
      const redBy = share * (colour(cr) - cr[at]!);
      red[i]! += (1.402 * redBy) / 255;
      green[i]! -= (0.344136 * blueBy + 0.714136 * redBy) / 255;
      blue[i]! += (1.772 * blueBy) / 255;
    });
    return result;
  },

  summary: ({ radius }) => say`fringes ${radius} px`,
} satisfies Step<'fringes', FringesSettings, FringesSettings>;
