import { z } from 'zod';
import { cut, type Raster } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import type { Step } from '../step';
import { say } from '../../words/say';

const RADIUS_LIMIT = 32;

export const BandingSettings = z.object({
  /** how far apart breaks may stand, in pixels */
  radius: z.int().min(4).max(RADIUS_LIMIT),
  /** how high a break may be, in levels */
  threshold: z.number().min(0.5).max(12),
});
export type BandingSettings = z.infer<typeof BandingSettings>;

/** Passes along each axis; two make a window without corners. */
const PASSES = 2;

/**
 * Turns breaks of a level or a few back into an even climb: means along rows and columns of what
 * lies within the threshold of the pixel (the sigma filter of Lee 1983), and nothing where
 * something else stands near, so that edges and texture stay.
 */
export const banding = {
  kind: 'banding',
  title: say`Banding`,
  blurb: say`Breaks in skies and other soft climbs.`,
  rank: 70,
  phases: ['original'],
  settings: BandingSettings,
  numbers: BandingSettings,
  defaults: { radius: 12, threshold: 2.5 },
  controls: [
    {
      form: 'slider',
      setting: 'radius',
      label: say`Radius`,
      min: 4,
      max: RADIUS_LIMIT,
      step: 1,
      unit: 'px',
    },
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Breaks up to` },
      ...{ min: 0.5, max: 12, step: 0.5, unit: 'levels' },
    },
  ],
  cost: () => 0.4,

  resolve: (settings) => settings,
  scaled: (numbers) => numbers,
  size: (_, from) => from,
  inputRegion: ({ radius }, region, { from }) => grow(region, PASSES * radius, from),

  apply(input, { radius, threshold }, region, { from }) {
    let window = input;
    for (let pass = PASSES - 1; pass >= 0; pass--) {
      const wanted = grow(region, pass * radius, from);
      const raster = evened(window.raster, window.region, wanted, from, radius, threshold * LEVEL);
      window = { region: wanted, raster };
    }
    return window.raster;
  },

  summary: ({ radius }) => say`banding ${radius} px`,
} satisfies Step<'banding', BandingSettings, BandingSettings>;

/** One pass along rows, then one along columns. */
function evened(
  raster: Raster,
  covered: Region,
  region: Region,
  size: Size,
  radius: number,
  threshold: number,
): Raster {
  const rows = { ...covered, x: region.x, width: region.width };
  const result = cut({ region: covered, raster }, region);
  for (let c = 0; c < 3; c++) {
    const plane = raster.planes[c]!;
    const across = new Float32Array(rows.width * rows.height);
    for (let y = 0; y < rows.height; y++) {
      const line = y * covered.width;
      for (let x = 0; x < rows.width; x++) {
        const at = rows.x + x;
        const from = Math.max(0, at - radius) - covered.x;
        const to = Math.min(size.width - 1, at + radius) - covered.x;
        across[y * rows.width + x] = meanOfAlike(
          plane,
          line + at - covered.x,
          line + from,
          line + to,
          1,
          threshold,
        );
      }
    }
    for (let y = 0; y < region.height; y++) {
      const at = region.y + y;
      const from = Math.max(0, at - radius) - rows.y;
      const to = Math.min(size.height - 1, at + radius) - rows.y;
      for (let x = 0; x < region.width; x++) {
        result.planes[c]![y * region.width + x] = meanOfAlike(
          across,
          (at - rows.y) * rows.width + x,
          from * rows.width + x,
          to * rows.width + x,
          rows.width,
          threshold,
        );
      }
    }
  }
  return result;
}

/** The mean of what lies within `threshold` of a value on both sides, as far as it goes on. */
function meanOfAlike(
  values: Float32Array,
  at: number,
  from: number,
  to: number,
  step: number,
  threshold: number,
): number {
  const here = values[at]!;
  // Both sides alike, so that the mean of a slope is its middle.
  let sum = here;
  let count = 1;
  for (let left = at - step, right = at + step; left >= from && right <= to;) {
    const a = values[left]! - here;
    const b = values[right]! - here;
    if (a > threshold || a < -threshold || b > threshold || b < -threshold) break;
    sum += values[left]! + values[right]!;
    count += 2;
    left -= step;
    right += step;
  }
  return sum / count;
}
