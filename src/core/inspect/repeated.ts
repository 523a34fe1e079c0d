import { percentile } from './patches';

/** The least that a pixel is repeated before it counts as blown up. */
const LEAST_FACTOR = 1.5;
/** Of all change, so much must lie on the cells' borders, beyond what chance would put there. */
const SURE = 0.86;
/** Change within cells, from compression afterwards, may reach so much above its quiet quarter. */
const UNREST = 1.5;
/** Where programs let a cell begin: half-pixel centres, or whole ones rounded down or up. */
const PHASES = [0.5, 0, 1 - 1e-9];

/**
 * The number of cells along one side of a picture that was blown up by repeating pixels, or null.
 * Change between neighbours then happens on cell borders alone; borders are where nearest-neighbour
 * sampling puts them, so that a factor that isn't whole is found too.
 * @param steps mean difference to the neighbour before, for every column (or row)
 */
export function repeatedCells(steps: Float64Array): number | null {
  const side = steps.length;
  const floor = UNREST * percentile(steps.subarray(1), 0.25);
  const above = steps.map((step) => Math.max(0, step - floor));
  const sums = new Float64Array(side + 1);
  for (let x = 0; x < side; x++) sums[x + 1] = sums[x]! + above[x]!;
  if (sums[side]! / side < 0.05) return null;
  const most = Math.floor(side / LEAST_FACTOR);
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
