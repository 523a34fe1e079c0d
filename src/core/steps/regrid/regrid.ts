import { z } from 'zod';
import { emptyRaster } from '../../raster/raster';
import type { Stage } from '../step';

/** The picture's true size, which its file repeats pixels of. */
export const RegridNumbers = z.object({
  width: z.int().positive(),
  height: z.int().positive(),
});
export type RegridNumbers = z.infer<typeof RegridNumbers>;

/** The pixels of a cell that are looked at: its middle half, away from whatever blurred its rim. */
function middle(index: number, cells: number, pixels: number): { from: number; to: number } {
  const start = (index * pixels) / cells;
  const span = pixels / cells;
  const from = Math.min(pixels - 1, Math.floor(start + span / 4 + 0.5));
  return { from, to: Math.max(from + 1, Math.min(pixels, Math.floor(start + span * 0.75 + 0.5))) };
}

/**
 * Takes a picture that was blown up by repeating pixels back to its true grid: every cell of the
 * file becomes the mean of its middle, which for a lossless file is the repeated pixel itself.
 */
export const regrid = {
  kind: 'regrid',
  phases: ['original'],
  cost: () => 0.05,
  numbers: RegridNumbers,
  scaled: (numbers) => numbers,
  size: ({ width, height }) => ({ width, height }),

  inputRegion({ width, height }, region, { from }) {
    const left = middle(region.x, width, from.width).from;
    const top = middle(region.y, height, from.height).from;
    const right = middle(region.x + region.width - 1, width, from.width).to;
    const bottom = middle(region.y + region.height - 1, height, from.height).to;
    return { x: left, y: top, width: right - left, height: bottom - top };
  },

  apply({ region: covered, raster }, { width, height }, region, { from }) {
    const result = emptyRaster(region.width, region.height, raster.form);
    for (let y = 0, i = 0; y < region.height; y++) {
      const down = middle(region.y + y, height, from.height);
      for (let x = 0; x < region.width; x++, i++) {
        const across = middle(region.x + x, width, from.width);
        const count = (down.to - down.from) * (across.to - across.from);
        for (let channel = 0; channel < raster.planes.length; channel++) {
          const plane = raster.planes[channel]!;
          let sum = 0;
          for (let v = down.from; v < down.to; v++) {
            const line = (v - covered.y) * covered.width - covered.x;
            for (let u = across.from; u < across.to; u++) sum += plane[line + u]!;
          }
          result.planes[channel]![i] = sum / count;
        }
      }
    }
    return result;
  },
} satisfies Stage<'regrid', RegridNumbers>;
