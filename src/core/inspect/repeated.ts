/** The least that a pixel is repeated before it counts as blown up. */
const LEAST_FACTOR = 1.5;
/** Of all change, so much must lie on the cells' borders, beyond what chance would put there. */
const SURE = 0.86;

/**
 * The number of cells along one side of a picture that was blown up by repeating pixels, or null.
 * Change between neighbours then happens on cell borders alone; borders are where nearest-neighbour
 * sampling puts them, so that a factor that isn't whole is found too.
 * @param steps mean difference to the neighbour before, for every column (or row)
 */
export function repeatedCells(steps: Float64Array): number | null {
  const side = steps.length;
  let all = 0;
  for (const step of steps) all += step;
  if (all / side < 0.05) return null;
  const most = Math.floor(side / LEAST_FACTOR);
  for (let cells = 4; cells <= most; cells++) {
    let onBorders = 0;
    for (let k = 1; k < cells; k++) onBorders += steps[border(k, cells, side)]!;
    const chance = cells / side;
    if ((onBorders / all - chance) / (1 - chance) < SURE) continue;
    // A coarser grid can't be the true one if half of its own borders carry nothing.
    let used = 0;
    for (let k = 1; k < cells; k++) {
      if (steps[border(k, cells, side)]! > (0.02 * all) / cells) used++;
    }
    if (used > 0.3 * cells) return cells;
  }
  return null;
}

/** The first pixel of cell `k`: pixel x shows cell floor((x + 1/2) cells / side). */
const border = (k: number, cells: number, side: number): number =>
  Math.min(side - 1, Math.ceil((k * side) / cells - 0.5));
