import type { TrueGrid } from '../frame/framing';
import { unrest, type Comb } from './comb';
import type { Size } from '../raster/region';
import { aboveUnrest, type Steps } from './patches';

/** The least that a pixel is repeated before it counts as blown up. */
const LEAST_FACTOR = 1.5;
/** … and so many columns, within cells, must be the same as the ones before: fewer may be so by chance. */
const LEAST_WITHIN = 12;
/** Of all change, so much must lie on the cells' borders, beyond what chance would put there. */
const SURE = 0.86;
/** Where programs let a cell begin: half-pixel centres, or whole ones rounded down or up. */
const PHASES = [0.5, 0, 1 - 1e-9];

/**
 * The number of cells along one side of a picture that was blown up by repeating pixels, or null.
 * Change between neighbours then happens on cell borders alone; borders are where nearest-neighbour
 * sampling puts them, so that a factor that isn't whole is found too.
 * @param steps how much every column (or row) differs from the one before
 */
export function repeatedCells(steps: Steps): number | null {
  const cells = cellsOf(steps.all);
  return cells && isCalm({ span: steps.all.length / cells, first: 0 }, steps) ? cells : null;
}

function cellsOf(steps: Float64Array): number | null {
  const side = steps.length;
  const above = aboveUnrest(steps);
  const sums = new Float64Array(side + 1);
  for (let x = 0; x < side; x++) sums[x + 1] = sums[x]! + above[x]!;
  if (sums[side]! / side < 0.05) return null;
  const most = Math.min(side - LEAST_WITHIN, Math.floor(side / LEAST_FACTOR));
  for (let cells = 4; cells <= most; cells++) {
    for (const phase of PHASES) if (fits(above, sums, cells, phase)) return cells;
  }
  return null;
}

/** So many cells tell already whether it's worth looking at all of them … */
const FIRST = 48;
/** … if at least so much of their change is on borders, or there is none. */
const HOPEFUL = 0.5;

/** Whether change lies on the borders of so many cells; `sums` are those of all steps before. */
function fits(steps: Float64Array, sums: Float64Array, cells: number, phase: number): boolean {
  const side = steps.length;
  const all = sums[side]!;
  const border = (k: number) => Math.min(side - 1, Math.ceil((k * side) / cells - phase));
  if (cells > 2 * FIRST) {
    let some = 0;
    for (let k = 1; k < FIRST; k++) some += steps[border(k)]!;
    const there = sums[border(FIRST)]!;
    if (there > 0.001 * all && some < HOPEFUL * there) return false;
  }
  let onBorders = 0;
  for (let k = 1; k < cells; k++) onBorders += steps[border(k)]!;
  const chance = cells / side;
  if ((onBorders / all - chance) / (1 - chance) < SURE) return false;
  // A coarser grid can't be the true one if most of its own borders carry nothing.
  let used = 0;
  for (let k = 1; k < cells; k++) if (steps[border(k)]! > (0.02 * all) / cells) used++;
  return used > 0.3 * cells;
}

/** How one side of a picture changes, and the comb on which it does. */
interface Side {
  comb: Comb;
  steps: Steps;
}

/** Cells are squares: the spans of both sides differ by less than this share. */
const ALIKE = 0.01;
/** Of both sides' strong change so much lies on borders. */
const SURE_OF_STRONG = 0.65;
/**
 * Compression leaves squares of its own, and smooth enlargement columns that differ by turns: cells count where columns change
 * within them by no more than so much of what they do at their borders. That is less of cells as large as blocks, and of those
 * of hardly more than a pixel, of which most columns are borders.
 */
const CALM = 0.55;
const CALM_PAIRS = 0.85;
const PAIRS = 2.5;
const CALM_FINE = 0.3;
const FINE = 1.9;
const CALM_BLOCKS = 0.33;
const BLOCK = 8;

/** Whether cells are neither squares of compression nor of smooth enlargement. */
function isCalm(comb: Pick<Comb, 'span' | 'first'>, { all }: Steps): boolean {
  const { span } = comb;
  const isBlock = Math.abs(span - BLOCK) < ALIKE * BLOCK;
  const most = span < FINE ? CALM_FINE : span < PAIRS ? CALM_PAIRS : isBlock ? CALM_BLOCKS : CALM;
  return unrest(comb, all) <= most;
}

/**
 * The true grid of a picture whose pixels were repeated, and which was cropped or compressed since; null where its sides don't
 * agree. Of a cell that was cut, the larger part makes a pixel.
 */
export function gridOfCombs(across: Side, down: Side): TrueGrid | null {
  const sides = [across, down];
  const [span, other] = [across.comb.span, down.comb.span];
  if (Math.abs(span - other) > ALIKE * span) return null;
  if (sides.some(({ comb }) => comb.share < SURE_OF_STRONG)) return null;
  if (sides.some(({ comb, steps }) => !isCalm(comb, steps))) return null;
  const [x, y] = sides.map(({ comb, steps }) => {
    const begins = comb.first > comb.span / 2 ? comb.first - comb.span : comb.first;
    const cells = Math.round((steps.all.length - begins) / comb.span);
    return { begins, cells, covered: cells * comb.span };
  }) as [Cells, Cells];
  return {
    ...{ width: x.cells, height: y.cells },
    covers: { x: x.begins, y: y.begins, width: x.covered, height: y.covered },
  };
}

/** The cells of one side: where the first begins, how many, and how many pixels they cover. */
interface Cells {
  begins: number;
  cells: number;
  covered: number;
}

/** Whether two grids have as many cells but for those at their borders. */
export const isSame = (one: Size, other: Size): boolean =>
  Math.abs(one.width - other.width) <= 1 && Math.abs(one.height - other.height) <= 1;
