import { PACKED, packPixels, putRow, TOGETHER } from '../../raster/pixels';
import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import { cells, within, type Region } from '../../raster/region';
import { scratchMemory, type Laid, type ScratchMemory } from '../../raster/rows';
import { pullAround, walk, widening, type Slant } from './grid';

/** Sides of what is resampled at a time, so that what it looks at is small. */
const TILE = 128;

/** A kernel that weighs the pixels about a place, by weights that every place has for itself. */
export interface About {
  /** how far a place looks, in source pixels */
  support: number;
  /**
   * how far beyond the outermost pixels' centres places may lie; from farther out there is nothing to
   * weigh, and they stand there
   */
  rim: number;
  /** what the weights are read from */
  table: Float32Array;
  /** computes a row */
  weigh(memory: ScratchMemory, ...laid: Laid): void;
}

/** Resampling by such a kernel. */
export function resampleAbout(input: Window, slant: Slant, region: Region, kernel: About): Raster {
  const { planes } = input.raster;
  const raster = emptyRaster(region.width, region.height, input.raster.form);
  const side = Math.max(1, Math.floor(TILE / widening(slant)));
  for (const cell of cells(region, side, slant.target)) {
    const tile = within(cell, region);
    for (let first = 0; first < planes.length; first += TOGETHER) {
      resampleTile(input, slant, kernel, first, tile, { region, raster });
    }
  }
  return raster;
}

function resampleTile(
  input: Window,
  slant: Slant,
  { support, rim, table, weigh }: About,
  first: number,
  tile: Region,
  result: Window,
): void {
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const { frame } = slant;
  const packed = pullAround(slant, tile, support);
  // In floats: centres, which are doubles; packed pixels, the table, a row of the result, weights.
  const pixels = 4 * tile.width;
  const tableAt = pixels + PACKED * packed.width * packed.height;
  const out = Math.ceil((tableAt + table.length) / 4) * 4;
  const work = out + TOGETHER * tile.width;
  const memory = scratchMemory(4 * (work + 4 * Math.ceil(support) + 32));
  packPixels(input, first, packed, memory.floats, pixels);
  memory.floats.set(table, tableAt);
  for (let v = 0; v < tile.height; v++) {
    const row = tile.y + v;
    for (let u = 0; u < tile.width; u++) {
      const column = tile.x + u;
      const cx = x + column * acrossX + row * downX;
      const cy = y + column * acrossY + row * downY;
      memory.doubles[2 * u] = Math.min(Math.max(cx, -rim), frame.width - 1 + rim) - packed.x;
      memory.doubles[2 * u + 1] = Math.min(Math.max(cy, -rim), frame.height - 1 + rim) - packed.y;
    }
    weigh(
      memory,
      ...[4 * out, 4 * tile.width, tile.width, 0, 4 * pixels],
      ...[packed.width, packed.height, 4 * tableAt, 4 * work],
    );
    putRow(result, first, tile.x, row, tile.width, memory.floats, out);
  }
}
