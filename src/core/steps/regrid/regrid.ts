import type { z } from 'zod';
import { TrueGrid } from '../../frame/framing';
import { emptyRaster } from '../../raster/raster';
import type { Size } from '../../raster/region';
import type { Stage } from '../step';

/** The picture's true size, which its file repeats pixels of, and what of the file it is. */
export const RegridNumbers = TrueGrid;
export type RegridNumbers = z.infer<typeof RegridNumbers>;

/** One side: how many cells cover what of it, and how many pixels it has. */
interface Side {
  cells: number;
  begins: number;
  covered: number;
  pixels: number;
}

function sidesOf(
  { width, height, covers }: RegridNumbers,
  from: Size,
): { across: Side; down: Side } {
  return {
    across: {
      ...{ cells: width, pixels: from.width },
      ...{ begins: covers?.x ?? 0, covered: covers?.width ?? from.width },
    },
    down: {
      ...{ cells: height, pixels: from.height },
      ...{ begins: covers?.y ?? 0, covered: covers?.height ?? from.height },
    },
  };
}

/** The pixels of a cell that are looked at: its middle half, away from whatever blurred its rim, where it lies on the picture. */
function middle(
  index: number,
  { cells, begins, covered, pixels }: Side,
): { from: number; to: number } {
  const start = begins + (index * covered) / cells;
  const span = covered / cells;
  const within = (at: number) => Math.min(pixels, Math.max(0, Math.floor(at + 0.5)));
  const from = Math.min(pixels - 1, within(start + span / 4));
  return { from, to: Math.max(from + 1, within(start + span * 0.75)) };
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

  inputRegion(numbers, region, { from }) {
    const { across, down } = sidesOf(numbers, from);
    const left = middle(region.x, across).from;
    const top = middle(region.y, down).from;
    const right = middle(region.x + region.width - 1, across).to;
    const bottom = middle(region.y + region.height - 1, down).to;
    return { x: left, y: top, width: right - left, height: bottom - top };
  },

  apply({ region: covered, raster }, numbers, region, { from }) {
    const sides = sidesOf(numbers, from);
    const result = emptyRaster(region.width, region.height, raster.form);
    for (let y = 0, i = 0; y < region.height; y++) {
      const down = middle(region.y + y, sides.down);
      for (let x = 0; x < region.width; x++, i++) {
        const across = middle(region.x + x, sides.across);
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
