import { copyRun } from './raster';
import { grow, type Region, type Size } from './region';
import { scratchLayout, scratchMemory, SPARE, strideOf, type ScratchMemory } from './rows';

/** Least and greatest values about a row's pixels, and what the caller has for itself; byte pointers. */
export type EachRange = (
  memory: ScratchMemory,
  row: { least: number; most: number; own: number },
  y: number,
) => void;

/** What of a range is wanted. */
export type Side = 'least' | 'most';

/**
 * The range of a plane in the square of `reach` pixels to every side about each pixel of a region: along rows, then
 * across them, each by doublings, so that the cost grows with the logarithm of the reach. Beyond the picture there is
 * nothing.
 * @param plane values over `covered`, which holds `region` and its reach as far as `size` allows
 * @param own floats of scratch memory that `each` has for itself
 */
export function rangeRows(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  reach: number,
  own: number,
  each: EachRange,
  sides: readonly Side[] = ['least', 'most'],
): void {
  const looked = grow(region, reach, size);
  const wide = region.width + 2 * reach;
  const stride = strideOf(wide) + SPARE;
  const allocate = scratchLayout();
  const line = allocate(stride);
  const turns = sides.map((side) => new Doublings(side, 2 * reach + 1, stride, allocate));
  const ownAt = allocate(own);
  const memory = scratchMemory(allocate(0) * 4);
  const { floats } = memory;
  const left = looked.x - (region.x - reach);
  const right = left + looked.width;
  const rows = region.height + 2 * reach;
  for (let y = 0; y < rows; y++) {
    // What lies beyond the picture repeats its rim, which is in the square already.
    const at = Math.min(Math.max(region.y - reach + y, looked.y), looked.y + looked.height - 1);
    const start = (at - covered.y) * covered.width + looked.x - covered.x;
    copyRun(plane, start, floats, line + left, looked.width);
    floats.fill(floats[line + left]!, line, line + left);
    floats.fill(floats[line + right - 1]!, line + right, line + stride);
    const found = turns.map((turn) => turn.take(memory, line, y, region.width));
    if (y < 2 * reach) continue;
    const row = { least: found[0]! * 4, most: found.at(-1)! * 4, own: ownAt * 4 };
    each(memory, row, y - 2 * reach);
  }
}

/** Windows of so many rows, the last `rows` of which lie from `at` on, in floats. */
interface Level {
  length: number;
  at: number;
  rows: number;
}

/** Rows of the least or the greatest of windows of 1, 2, 4 … rows, as far as later rows look back on them. */
class Doublings {
  private readonly levels: Level[] = [];
  private readonly out: number;

  constructor(
    private readonly side: Side,
    private readonly length: number,
    private readonly stride: number,
    allocate: (floats: number) => number,
  ) {
    let have = 1;
    for (; 2 * have <= length; have *= 2) this.add(have, have + 1, allocate);
    this.add(have, length - have + 1, allocate);
    this.out = allocate(stride);
  }

  private add(length: number, rows: number, allocate: (floats: number) => number): void {
    this.levels.push({ length, rows, at: allocate(rows * this.stride) });
  }

  /** Takes the next row in. @returns where the row of whole windows that ends with it lies, in floats */
  take(memory: ScratchMemory, line: number, y: number, n: number): number {
    const { levels, length } = this;
    const narrow = this.side === 'least' ? memory.leastRow : memory.mostRow;
    // Along the row first.
    const own = this.rowAt(levels[0]!, y);
    const wide = n + length - 1;
    let from = line * 4;
    let have = 1;
    for (; 2 * have <= length; have *= 2, from = own) {
      narrow(own, from, from + have * 4, wide - have);
    }
    if (have < length) narrow(own, from, from + (length - have) * 4, n);
    for (const [k, level] of levels.entries()) {
      const next = levels[k + 1];
      const row = this.rowAt(level, y);
      if (next) narrow(this.rowAt(next, y), row, this.rowAt(level, y - level.length), n);
      else narrow(this.out * 4, row, this.rowAt(level, y - (length - level.length)), n);
    }
    return this.out;
  }

  /** Where a row of windows lies, in bytes. */
  private rowAt({ at, rows }: Level, row: number): number {
    return (at + (Math.max(row, 0) % rows) * this.stride) * 4;
  }
}

/** The range about every pixel of a region, as planes of its own; the rest as in `rangeRows`. */
export function rangeAbout(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  reach: number,
): { least: Float32Array; most: Float32Array } {
  const least = new Float32Array(region.width * region.height);
  const most = new Float32Array(region.width * region.height);
  rangeRows(plane, covered, region, size, reach, 0, ({ floats }, row, y) => {
    copyRun(floats, row.least / 4, least, y * region.width, region.width);
    copyRun(floats, row.most / 4, most, y * region.width, region.width);
  });
  return { least, most };
}

/** The greatest value about every pixel of a region, as in `rangeAbout`. */
export function mostAbout(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  reach: number,
): Float32Array {
  const most = new Float32Array(region.width * region.height);
  const take = ({ floats }: ScratchMemory, row: { most: number }, y: number): void =>
    copyRun(floats, row.most / 4, most, y * region.width, region.width);
  rangeRows(plane, covered, region, size, reach, 0, take, ['most']);
  return most;
}
