import { z } from 'zod';
import { Colour } from '../../measure/paper';
import { emptyRaster } from '../../raster/raster';
import type { Stage } from '../step';

/** What stands beyond a side of the picture. */
const Beyond = z.enum(['colour', 'mirror', 'clamp']);
type Beyond = z.infer<typeof Beyond>;

/** The sheet, where the picture lies on it, and what fills the rest. */
export const MountNumbers = z.object({
  width: z.int().positive(),
  height: z.int().positive(),
  x: z.int().min(0),
  y: z.int().min(0),
  left: Beyond,
  right: Beyond,
  top: Beyond,
  bottom: Beyond,
  colour: Colour,
});
export type MountNumbers = z.infer<typeof MountNumbers>;

/** Index of a pixel that stands for one beyond the sides; -1 for the paper's colour. */
function stand(index: number, count: number, before: Beyond, after: Beyond): number {
  if (index >= 0 && index < count) return index;
  const beyond = index < 0 ? before : after;
  if (beyond === 'colour') return -1;
  if (beyond === 'clamp') return index < 0 ? 0 : count - 1;
  // Mirrored on the edge itself, so that the edge pixel stands twice and no line shows.
  const period = 2 * count;
  const folded = ((index % period) + period) % period;
  return folded < count ? folded : period - 1 - folded;
}

/** Which pixels of the picture a run of sheet pixels shows. */
const standIns = (
  start: number,
  length: number,
  origin: number,
  count: number,
  before: Beyond,
  after: Beyond,
): Int32Array =>
  Int32Array.from({ length }, (_, i) => stand(start + i - origin, count, before, after));

/** First index and length of what is needed; one pixel where nothing is. */
function span(indices: Int32Array): { start: number; length: number } {
  const used = indices.filter((index) => index >= 0);
  if (used.length === 0) return { start: 0, length: 1 };
  const start = used.reduce((a, b) => Math.min(a, b));
  return { start, length: used.reduce((a, b) => Math.max(a, b)) - start + 1 };
}

/** #rrggbb on the 0–1 scale. */
export const channelsOf = (colour: Colour): [number, number, number] => [
  parseInt(colour.slice(1, 3), 16) / 255,
  parseInt(colour.slice(3, 5), 16) / 255,
  parseInt(colour.slice(5, 7), 16) / 255,
];

/** Lays the finished picture on its sheet: margins in the paper's colour, bleed as it was chosen. */
export const mount = {
  kind: 'mount',
  phases: ['sheet'],
  cost: () => 0.02,
  numbers: MountNumbers,

  scaled(numbers, scale) {
    return {
      ...numbers,
      width: Math.max(1, Math.round(numbers.width * scale)),
      height: Math.max(1, Math.round(numbers.height * scale)),
      x: Math.round(numbers.x * scale),
      y: Math.round(numbers.y * scale),
    };
  },

  size: ({ width, height }) => ({ width, height }),

  inputRegion(numbers, region, { from }) {
    const { left, right, top, bottom } = numbers;
    const across = span(standIns(region.x, region.width, numbers.x, from.width, left, right));
    const down = span(standIns(region.y, region.height, numbers.y, from.height, top, bottom));
    return { x: across.start, y: down.start, width: across.length, height: down.length };
  },

  apply({ region: covered, raster }, numbers, region, { from }) {
    const result = emptyRaster(region.width, region.height, raster.form);
    const { left, right, top, bottom } = numbers;
    const across = standIns(region.x, region.width, numbers.x, from.width, left, right);
    const down = standIns(region.y, region.height, numbers.y, from.height, top, bottom);
    // Where transparency is kept, margins are transparent too.
    const paper = [...channelsOf(numbers.colour), 0];
    result.planes.forEach((plane, channel) => {
      const input = raster.planes[channel]!;
      for (let y = 0, i = 0; y < region.height; y++) {
        const line = (down[y]! - covered.y) * covered.width - covered.x;
        for (let x = 0; x < region.width; x++, i++) {
          const onPaper = down[y]! < 0 || across[x]! < 0;
          plane[i] = onPaper ? paper[channel]! : input[line + across[x]!]!;
        }
      }
    });
    return result;
  },
} satisfies Stage<'mount', MountNumbers>;
