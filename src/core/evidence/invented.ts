import { UPSCALING, magnifiedRegion } from '../learned/enlarger';
import { luminance } from '../raster/colour';
import { cells, whole, type Region, type Size } from '../raster/region';
import type { Rendering } from '../render/render';
import type { Calibration, KnownCalibration } from './calibrations';

/** Sides of what is told apart, in pixels of the original … */
export const INVENTED_CELL = 8;
/** … and of what is computed at a time. */
const BLOCK = 384;

/** What tells how far off a network's result may be in a cell. */
export interface Signs {
  /**
   * levels that it added to the plain enlargement that agrees with the file just as well (root mean
   * square of luminance)
   */
  added: number;
  /** levels that the plain enlargement changes by from pixel to pixel */
  edges: number;
  /** severity of the file's compression, 0–1; after Restore with that of its blur and noise, 0–5 */
  severity: number;
}

export const scoreOf = (
  { added, edges, severity }: Signs,
  { weights: [a, e, s] }: Calibration,
): number => a * Math.log(added + 0.02) + e * Math.log(edges + 0.1) + s * severity;

/** Levels that a cell is expected to be off. */
export const expectedOff = (signs: Signs, by: Calibration): number => offBy(scoreOf(signs, by), by);

function offBy(score: number, { offByScore: table }: Calibration): number {
  const after = table.findIndex(([at]) => at > score);
  if (after < 0) return table.at(-1)![1];
  if (after === 0) return table[0]![1];
  const [x0, y0] = table[after - 1]!;
  const [x1, y1] = table[after]!;
  return y0 + ((score - x0) / (x1 - x0)) * (y1 - y0);
}

/** Where a network's result says more than the file: expected to be off by so many levels, cell by cell. */
export interface Invented {
  columns: number;
  rows: number;
  /** row by row */
  levels: Float32Array;
  /** half of all cells are off by no more than so many times as much as is said, and no less */
  usuallyWithin: number;
  /** the worst places, in pixels of the original */
  worst: { x: number; y: number; levels: number }[];
}

const WORST = 6;
/** Two places are one when they lie closer than so many cells. */
const APART = 8;

/**
 * What a network added to what plain enlargement and agreement with the file explain.
 * @param plain the `upscale` stage without its network
 * @param upscaled with it
 * @param severity of the file's damage, as the networks were told it; `by`: how their results are off
 * @param onProgress told of the share that is done; answering false ends it
 */
export async function inventedDetail(
  plain: Rendering,
  upscaled: Rendering,
  { severity, by }: { severity: number; by: KnownCalibration },
  onProgress: (share: number) => boolean | Promise<boolean> = () => true,
): Promise<Invented | null> {
  const size: Size = {
    width: plain.size.width / UPSCALING,
    height: plain.size.height / UPSCALING,
  };
  const columns = Math.ceil(size.width / INVENTED_CELL);
  const rows = Math.ceil(size.height / INVENTED_CELL);
  const scores = new Float32Array(columns * rows);
  const blocks = cells(whole(size), BLOCK, size);
  for (const [i, block] of blocks.entries()) {
    const region = magnifiedRegion(block);
    const without = luminance(await plain.read(region));
    const found = luminance(await upscaled.read(region));
    for (const cell of cells(block, INVENTED_CELL, size)) {
      const at = (cell.y / INVENTED_CELL) * columns + cell.x / INVENTED_CELL;
      scores[at] = scoreOf(signsIn(magnifiedRegion(cell), region, without, found, severity), by);
    }
    if (!(await onProgress((i + 1) / blocks.length))) return null;
  }
  return {
    columns,
    rows,
    levels: scores.map((score) => offBy(score, by)),
    usuallyWithin: by.usuallyWithin,
    worst: worstOf(scores, columns, by),
  };
}

/** @param covered what both planes of luminance are over */
export const signsIn = (
  cell: Region,
  covered: Region,
  plain: Float32Array,
  found: Float32Array,
  severity: number,
): Signs => ({
  added: rmsIn(cell, covered, plain, found),
  edges: edgesIn(cell, covered, plain),
  severity,
});

/** Root mean square of a plane's differences across and down, together, in levels. */
function edgesIn(cell: Region, covered: Region, plane: Float32Array): number {
  let sum = 0;
  for (let v = 0; v < cell.height - 1; v++) {
    let at = (cell.y + v - covered.y) * covered.width + cell.x - covered.x;
    for (let u = 0; u < cell.width - 1; u++, at++) {
      const here = plane[at]!;
      sum += (plane[at + 1]! - here) ** 2 + (plane[at + covered.width]! - here) ** 2;
    }
  }
  return 255 * Math.sqrt(sum / ((cell.width - 1) * (cell.height - 1)));
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

/** By their scores: what is expected no longer grows with them in the end. */
function worstOf(scores: Float32Array, columns: number, by: Calibration): Invented['worst'] {
  const order = [...scores.keys()].sort((a, b) => scores[b]! - scores[a]!);
  const taken: { column: number; row: number; score: number }[] = [];
  for (const at of order) {
    const [column, row] = [at % columns, Math.floor(at / columns)];
    const far = taken.every(
      (one) => Math.max(Math.abs(one.column - column), Math.abs(one.row - row)) >= APART,
    );
    if (far) taken.push({ column, row, score: scores[at]! });
    if (taken.length === WORST) break;
  }
  return taken.map(({ column, row, score }) => ({
    x: (column + 0.5) * INVENTED_CELL,
    y: (row + 0.5) * INVENTED_CELL,
    levels: offBy(score, by),
  }));
}
