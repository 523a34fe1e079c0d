import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { luminance } from '../../raster/colour';
import { expNegative } from '../../raster/portable-math';
import { PACKED, packPixels, pairsOf, putRow, TOGETHER } from '../../raster/pixels';
import { cut, type Window } from '../../raster/raster';
import { cells, grow, within, type Region, type Size } from '../../raster/region';
import { scratchMemory } from '../../raster/rows';
import { LEVEL } from '../../raster/samples';
import type { Step } from '../step';
import { say } from '../../words/say';

/** The largest radius in pixels; the cost grows with its square. */
export const SMOOTH_LIMIT = 6;

export const SmoothSettings = z.object({
  /** standard deviation of the window in pixels of the grid where the step stands */
  radius: z.number().min(0.01).max(SMOOTH_LIMIT),
  /** differences beyond so many levels stay */
  threshold: z.number().min(0.5).max(64),
});
export type SmoothSettings = z.infer<typeof SmoothSettings>;

/** Sides of what is smoothed at a time, so that what it looks at stays near. */
const TILE = 256;

/** Microseconds that a pixel of the window takes. */
const WINDOW_PIXEL = 0.0028;

/** Pixels that a window of a deviation reaches to either side. */
export const smoothReach = (radius: number): number => Math.max(1, Math.ceil(2.5 * radius));

/** Values of a bell over squares of differences of luminance, up to three deviations. */
const ENTRIES = 1024;
const BELL = pairsOf((square) => expNegative(-square / 2), 9, ENTRIES / 9);

/** Weights by nearness of the pixels within `reach`, row by row. */
function windowOf(radius: number, reach: number): Float32Array {
  const side = 2 * reach + 1;
  return Float32Array.from({ length: side * side }, (_, k) => {
    const dx = (k % side) - reach;
    const dy = Math.floor(k / side) - reach;
    return expNegative(-(dx * dx + dy * dy) / (2 * radius * radius));
  });
}

/**
 * Smooths what hardly differs and keeps edges: the bilateral filter (Tomasi & Manduchi 1998), with
 * differences taken in luminance so that all channels keep the same edges.
 */
export const smooth = {
  kind: 'smooth',
  title: say`Smooth`,
  blurb: say`Evens out, keeps edges.`,
  rank: 60,
  phases: ['original', 'target'],
  settings: SmoothSettings,
  numbers: SmoothSettings,
  defaults: { radius: 1.5, threshold: 8 },
  controls: [
    {
      ...{ form: 'slider', setting: 'radius', label: say`Radius` },
      ...{ min: 0.01, max: SMOOTH_LIMIT, step: 0.01, unit: 'px' },
    },
    {
      ...{ form: 'slider', setting: 'threshold', label: say`Threshold` },
      ...{ min: 0.5, max: 64, step: 0.5, unit: 'levels' },
    },
  ],
  cost: ({ radius }) => WINDOW_PIXEL * (2 * smoothReach(radius) + 1) ** 2,

  resolve: (settings) => settings,
  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(0.01, numbers.radius * scale) }),
  size: (_, from) => from,
  inputRegion: ({ radius }, region, { from }) => grow(region, smoothReach(radius), from),

  apply(input, numbers, region, { from }) {
    const raster = cut(input, region);
    for (const tile of cells(region, TILE, from)) {
      smoothTile(input, numbers, within(tile, region), from, { region, raster });
    }
    return raster;
  },

  summary: ({ radius, threshold }) =>
    say`smooth ${formatNumber(radius)} px · ${formatNumber(threshold)}`,
} satisfies Step<'smooth', SmoothSettings, SmoothSettings>;

function smoothTile(
  input: Window,
  { radius, threshold }: SmoothSettings,
  tile: Region,
  from: Size,
  result: Window,
): void {
  const r = smoothReach(radius);
  const window = windowOf(radius, r);
  const around = grow(tile, r, from);
  const count = around.width * around.height;
  // In floats: packed pixels, their luminance, both tables, a row of the result, weights of a row.
  const luma = PACKED * count;
  const windowAt = luma + count + 4;
  const bellAt = windowAt + window.length + 4;
  const out = bellAt + BELL.length;
  const work = out + TOGETHER * tile.width;
  const memory = scratchMemory(4 * (work + 2 * r + 8));
  packPixels(input, 0, around, memory.floats, 0);
  memory.floats.set(luminance(cut(input, around)), luma);
  memory.floats.set(window, windowAt);
  memory.floats.set(BELL, bellAt);
  for (let v = 0; v < tile.height; v++) {
    memory.smoothRow(
      out * 4,
      tile.width * 4,
      tile.width,
      0,
      luma * 4,
      around.width,
      around.height,
      tile.x - around.x,
      tile.y + v - around.y,
      windowAt * 4,
      r,
      bellAt * 4,
      // The bell ends at three thresholds; squares of differences lead into its table.
      ENTRIES / (9 * (threshold * LEVEL) ** 2),
      ENTRIES,
      work * 4,
    );
    putRow(result, 0, tile.x, tile.y + v, tile.width, memory.floats, out);
  }
}
