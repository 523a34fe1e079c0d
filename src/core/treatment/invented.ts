import { MAGNIFICATION, magnifiedRegion } from '../learned/enlarger';
import { luminance } from '../raster/colour';
import { cells, whole, type Region, type Size } from '../raster/region';
import type { Rendering } from './render';

/** Sides of what is told apart, in pixels of the original … */
export const INVENTED_CELL = 8;
/** … and of what is computed at a time. */
const BLOCK = 384;

/**
 * How far off a network's result is where it added so many levels (root mean square of luminance, a
 * cell) to the plain enlargement that agrees with the file just as well: medians over photographs
 * that no model has learnt from. `npm run bench -- enlarging` holds it against them.
 */
const OFF_BY_ADDED: readonly (readonly [added: number, off: number])[] = [
  [0, 0.5],
  [0.11, 1],
  [0.2, 1.7],
  [0.9, 5],
  [1.5, 8.7],
  [2.2, 11.8],
  [3.1, 14],
  [4.2, 17.3],
  [8.1, 17.8],
];

/** Levels that a cell is expected to be off, by what was added to it. */
export function expectedOff(added: number): number {
  const after = OFF_BY_ADDED.findIndex(([at]) => at > added);
  if (after < 0) return OFF_BY_ADDED.at(-1)![1];
  const [x0, y0] = OFF_BY_ADDED[after - 1]!;
  const [x1, y1] = OFF_BY_ADDED[after]!;
  return y0 + ((added - x0) / (x1 - x0)) * (y1 - y0);
}

/** Where a network's result says more than the file: expected to be off by so many levels, cell by cell. */
export interface Invented {
  columns: number;
  rows: number;
  /** row by row */
  levels: Float32Array;
  /** the worst places, in pixels of the original */
  worst: { x: number; y: number; levels: number }[];
}

const WORST = 6;
/** Two places are one when they lie closer than so many cells. */
const APART = 8;

/**
 * What a network added to what plain enlargement and agreement with the file explain.
 * @param plain the `magnify` stage without its network
 * @param magnified with it
 * @param onProgress told of the share that is done; answering false ends it
 */
export async function inventedDetail(
  plain: Rendering,
  magnified: Rendering,
  onProgress: (share: number) => boolean | Promise<boolean> = () => true,
): Promise<Invented | null> {
  const size: Size = {
    width: plain.size.width / MAGNIFICATION,
    height: plain.size.height / MAGNIFICATION,
  };
  const columns = Math.ceil(size.width / INVENTED_CELL);
  const rows = Math.ceil(size.height / INVENTED_CELL);
  const added = new Float32Array(columns * rows);
  const blocks = cells(whole(size), BLOCK, size);
  for (const [i, block] of blocks.entries()) {
    const region = magnifiedRegion(block);
    const without = luminance(await plain.read(region));
    const found = luminance(await magnified.read(region));
    for (const cell of cells(block, INVENTED_CELL, size)) {
      const at = (cell.y / INVENTED_CELL) * columns + cell.x / INVENTED_CELL;
      added[at] = rmsIn(magnifiedRegion(cell), region, without, found);
    }
    if (!(await onProgress((i + 1) / blocks.length))) return null;
  }
  return { columns, rows, levels: added.map(expectedOff), worst: worstOf(added, columns) };
}

/** Root mean square of the difference of two planes over a cell, in levels. */
export function rmsIn(cell: Region, covered: Region, a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let v = 0; v < cell.height; v++) {
    let at = (cell.y + v - covered.y) * covered.width + cell.x - covered.x;
    for (let u = 0; u < cell.width; u++, at++) sum += (a[at]! - b[at]!) ** 2;
  }
  return 255 * Math.sqrt(sum / (cell.width * cell.height));
}

/** Where most was added: what is expected of it no longer grows there, so places go by the former. */
function worstOf(added: Float32Array, columns: number): Invented['worst'] {
  const order = [...added.keys()].sort((a, b) => added[b]! - added[a]!);
  const taken: { column: number; row: number; added: number }[] = [];
  for (const at of order) {
    const [column, row] = [at % columns, Math.floor(at / columns)];
    const far = taken.every(
      (one) => Math.max(Math.abs(one.column - column), Math.abs(one.row - row)) >= APART,
    );
    if (far) taken.push({ column, row, added: added[at]! });
    if (taken.length === WORST) break;
  }
  return taken.map(({ column, row, added: by }) => ({
    x: (column + 0.5) * INVENTED_CELL,
    y: (row + 0.5) * INVENTED_CELL,
    levels: expectedOff(by),
  }));
}
