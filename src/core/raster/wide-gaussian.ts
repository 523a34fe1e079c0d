import { gaussian, gaussianReach, gaussianWeights, meanRows, type Weights } from './gaussian';
import { clip, type Region, type Size } from './region';
import { copyRun, emptyRaster, type Raster, type Window } from './raster';
import { scratchMemory, strideOf, type ScratchMemory } from './rows';
import { LIGHTNESS } from './form';

/**
 * A wide Gaussian computed on a coarser grid: the picture is reduced through cubic B-splines, blurred
 * there, and brought up again through cubic B-splines (after Unser, Aldroubi & Eden 1993, "B-spline signal
 * processing"). What splines blur is taken off the Gaussian between them, so that the variances add up to
 * the radius squared. Off a true Gaussian by at most 7e-4 of the picture's range (measured, full contrast); the cost hardly grows with
 * the radius.
 */
export interface WideGaussian {
  /** pixels to a cell along each axis, a multiple of four */
  factor: number;
  /** standard deviation between the splines, in cells */
  sigma: number;
  /** how far that is looked, in cells */
  reach: number;
}

/** Cells that a spline reaches to either side of the cell that a pixel lies in. */
const SPLINE = 2;
/** The narrowest Gaussian, in cells, that is told from the splines about it. */
const LEAST = 1.5;
/** Variance of both splines together, in cells squared. */
const OF_SPLINES = 2 / 3;

/** How a Gaussian of this standard deviation, in pixels, is computed coarsely; null where it is too narrow. */
export function wideGaussian(radius: number): WideGaussian | null {
  if (radius < 4 * LEAST) return null;
  let factor = 4;
  while (radius >= 2 * factor * LEAST) factor *= 2;
  const sigma = Math.sqrt((radius / factor) ** 2 - OF_SPLINES);
  return { factor, sigma, reach: gaussianReach(sigma) };
}

/** The cubic B-spline, 0 beyond 2. */
function spline(at: number): number {
  const t = Math.abs(at);
  if (t >= 2) return 0;
  if (t >= 1) return ((2 - t) * (2 - t) * (2 - t)) / 6;
  return 2 / 3 - t * t + (t * t * t) / 2;
}

/** How far from the middle of its cell a pixel lies, in cells; `phase` counts from the cell's first pixel. */
const inCell = (phase: number, factor: number): number => (phase - (factor - 1) / 2) / factor;

/** Size of the reduced grid: the picture's cells, and two more on every side that its rim reaches. */
export const reducedSize = ({ width, height }: Size, factor: number): Size => ({
  width: Math.ceil(width / factor) + 2 * SPLINE,
  height: Math.ceil(height / factor) + 2 * SPLINE,
});

/** Pixels that `region` of the reduced grid depends on. */
export function pixelsOfCells(region: Region, factor: number, size: Size): Region {
  const first = (at: number) => (at - SPLINE) * factor - (3 * factor) / 2;
  return clip(
    {
      x: first(region.x),
      y: first(region.y),
      width: (region.width + 3) * factor,
      height: (region.height + 3) * factor,
    },
    size,
  );
}

/** Cells of the reduced grid that the blur over `region` of the picture depends on. */
export function cellsOfPixels(region: Region, wide: WideGaussian, size: Size): Region {
  const { factor, reach } = wide;
  const first = (at: number) => Math.floor(at / factor) - reach;
  const last = (at: number) => Math.floor(at / factor) + 2 * SPLINE + reach;
  const x = first(region.x);
  const y = first(region.y);
  return clip(
    {
      x,
      y,
      width: last(region.x + region.width - 1) + 1 - x,
      height: last(region.y + region.height - 1) + 1 - y,
    },
    reducedSize(size, factor),
  );
}

/** What becomes one row of values before it is reduced; `at` and `memory` as in `scratchMemory`. */
type RowOf = (memory: ScratchMemory, at: number, y: number) => void;

/**
 * Reduces a plane to `region` of its reduced grid: cells are means through cubic B-splines, and what lies
 * beyond the picture counts as nothing.
 * @param covered pixels whose rows `rowOf` writes, at least `pixelsOfCells(region)`
 * @param own floats of scratch memory that `rowOf` has for itself, behind the row it writes
 */
export function reduceRows(
  covered: Region,
  region: Region,
  factor: number,
  size: Size,
  own: number,
  rowOf: RowOf,
): Raster {
  const pixels = pixelsOfCells(region, factor, size);
  const stride = strideOf(covered.width) + 4;
  // In floats: a row, what the caller needs, five rows of sums.
  const sums = stride + own;
  const memory = scratchMemory((sums + 5 * stride) * 4);
  const { floats } = memory;
  floats.fill(0, sums, sums + 5 * stride);
  const result = emptyRaster(region.width, region.height, LIGHTNESS);
  const [plane] = result.planes as [Float32Array];
  const across = Float64Array.from(
    { length: 4 * factor },
    (_, k) => spline((k - 2 * factor + 0.5) / factor) / factor,
  );
  const rowAt = (cell: number) => sums + (((cell % 5) + 5) % 5) * stride;

  /** A row of cells is complete: along it, and out of the way. */
  const finish = (cell: number) => {
    const at = rowAt(cell);
    const line = cell + SPLINE - region.y;
    if (line >= 0 && line < region.height) {
      for (let c = 0; c < region.width; c++) {
        const first = (region.x + c - SPLINE) * factor - (3 * factor) / 2;
        const from = Math.max(first, 0);
        const to = Math.min(first + 4 * factor, size.width);
        let sum = 0;
        for (let x = from; x < to; x++) sum += across[x - first]! * floats[at + x - covered.x]!;
        plane[line * region.width + c] = sum;
      }
    }
    floats.fill(0, at, at + stride);
  };

  let open = Math.floor(pixels.y / factor) - SPLINE;
  for (let y = pixels.y; y < pixels.y + pixels.height; y++) {
    const cell = Math.floor(y / factor);
    const at = inCell(y - cell * factor, factor);
    // Four rows of cells are about it; five where it lies in the middle, of which one counts nothing.
    const first = at < 0 ? cell - 2 : cell - 1;
    for (; open < first; open++) finish(open);
    rowOf(memory, 0, y);
    const [w0, w1, w2, w3] = [0, 1, 2, 3].map((k) => spline(cell + at - first - k) / factor) as [
      number,
      number,
      number,
      number,
    ];
    memory.spread4(
      rowAt(first) * 4,
      rowAt(first + 1) * 4,
      rowAt(first + 2) * 4,
      rowAt(first + 3) * 4,
      0,
      w0,
      w1,
      w2,
      w3,
      covered.width,
    );
  }
  for (const last = region.y + region.height - SPLINE; open < last; open++) finish(open);
  return result;
}

/**
 * What of the spline about a cell of an axis lies on the picture, 0–1.
 * @param cell counted from the picture's first
 */
function onPicture(cell: number, length: number, factor: number): number {
  const from = cell * factor - (3 * factor) / 2;
  if (from >= 0 && from + 4 * factor <= length) return 1;
  let sum = 0;
  for (let k = 0; k < 4 * factor; k++) {
    if (from + k >= 0 && from + k < length) sum += spline((k - 2 * factor + 0.5) / factor) / factor;
  }
  return sum;
}

/** Sums of all weights about the positions of an axis, of what lies on the picture. */
function weightsOn(start: number, count: number, length: number, wide: WideGaussian): Float64Array {
  const { factor, reach } = wide;
  const first = Math.floor(start / factor) - SPLINE;
  const last = Math.floor((start + count - 1) / factor) + SPLINE;
  const reduced = (cell: number) => onPicture(cell, length, factor);
  const bell = normalised(wide);
  const soft = Float64Array.from({ length: last - first + 1 }, (_, i) => {
    let sum = 0;
    for (let k = -reach; k <= reach; k++) sum += bell[k + reach]! * reduced(first + i + k);
    return sum;
  });
  return Float64Array.from({ length: count }, (_, i) => {
    const cell = Math.floor((start + i) / factor);
    const at = inCell(start + i - cell * factor, factor);
    let sum = 0;
    for (let k = -SPLINE; k <= SPLINE; k++) sum += spline(at - k) * soft[cell + k - first]!;
    return sum;
  });
}

function normalised({ sigma, reach }: Pick<WideGaussian, 'sigma' | 'reach'>): Float64Array {
  const weights = gaussianWeights(sigma, reach);
  let total = 0;
  for (const weight of weights) total += weight;
  return weights.map((weight) => weight / total);
}

/**
 * A plane of the reduced grid blurred over `cells`; what lies beyond the grid counts as nothing.
 * @param covered cells that the plane lies over, at least those about `cells` as far as the grid goes
 * @param out its rows, one `stride` after the other
 */
export function blurCells(
  plane: Float32Array,
  covered: Region,
  cells: Region,
  grid: Size,
  { sigma, reach }: Pick<WideGaussian, 'sigma' | 'reach'>,
  out: Float32Array,
  stride: number,
): void {
  const weights: Weights = { ...gaussian(sigma, reach), beyond: 'zero' };
  meanRows(plane, covered, cells, grid, weights, 0, ({ floats }, { mean }, y) =>
    copyRun(floats, mean / 4, out, y * stride, cells.width),
  );
}

/** What a blur of cells that all count `weight` comes to along an axis of the reduced grid. @param count of its cells */
export function blurredWeights(
  start: number,
  length: number,
  count: number,
  wide: Pick<WideGaussian, 'sigma' | 'reach'>,
  weight: (cell: number) => number,
): Float64Array {
  const { reach } = wide;
  const bell = normalised(wide);
  return Float64Array.from({ length }, (_, i) => {
    let sum = 0;
    for (let k = -reach; k <= reach; k++) {
      const cell = start + i + k;
      if (cell >= 0 && cell < count) sum += bell[k + reach]! * weight(cell);
    }
    return sum;
  });
}

/** What of a cell of the reduced grid lies on the picture, along an axis. */
export const cellWeight = (cell: number, length: number, factor: number): number =>
  onPicture(cell - SPLINE, length, factor);

/** Cells about the pixels of a region whose splines reach them, and how their rows lie in scratch memory. */
export interface CellsAbout {
  /** on the reduced grid */
  cells: Region;
  /** floats from one row to the next */
  stride: number;
}

export function cellsAbout(region: Region, factor: number): CellsAbout {
  const x = Math.floor(region.x / factor);
  const y = Math.floor(region.y / factor);
  const columns = Math.floor((region.x + region.width - 1) / factor) - x + 1;
  const rows = Math.floor((region.y + region.height - 1) / factor) - y + 1;
  // Cell c of the picture is cell c + 2 of the reduced grid: two to the left of it is its index.
  const cells = { x, y, width: columns + 4, height: rows + 4 };
  return { cells, stride: strideOf(cells.width) + 4 };
}

/**
 * Rows of pixels from planes of cells, through cubic B-splines.
 * @param planes of the cells about the region, rows one `stride` after the other
 * @param own floats of scratch memory that `each` has for itself
 * @param divisor what a row's values are divided by
 * @param each is given the byte pointers of a row of every plane, and of its own scratch memory
 */
export function splineRows(
  planes: readonly Float32Array[],
  region: Region,
  factor: number,
  own: number,
  divisor: (y: number) => number,
  each: (memory: ScratchMemory, rows: number[], own: number, y: number) => void,
): void {
  const { cells, stride } = cellsAbout(region, factor);
  const columns = cells.width - 4;
  const plane = cells.height * stride;
  const table = planes.length * plane;
  const mixed = table + 5 * factor;
  const line = columns * factor + 4;
  const lines = mixed + stride;
  const ownAt = lines + planes.length * line;
  const memory = scratchMemory((ownAt + own) * 4);
  const { floats } = memory;
  planes.forEach((values, i) => floats.set(values, i * plane));
  for (let k = 0; k < 5; k++) {
    for (let p = 0; p < factor; p++)
      floats[table + k * factor + p] = spline(inCell(p, factor) + 2 - k);
  }
  const begin = region.x - cells.x * factor;
  const rows = planes.map((_, i) => (lines + i * line + begin) * 4);
  for (let y = 0; y < region.height; y++) {
    const cell = Math.floor((region.y + y) / factor);
    const at = inCell(region.y + y - cell * factor, factor);
    const first = (cell - cells.y) * stride;
    const w = (k: number) => spline(at + 2 - k) / divisor(y);
    for (let i = 0; i < planes.length; i++) {
      const row = (k: number) => (i * plane + first + k * stride) * 4;
      memory.mix2(mixed * 4, row(0), row(1), w(0), w(1), cells.width);
      memory.add2(mixed * 4, row(2), row(3), w(2), w(3), cells.width);
      memory.add1(mixed * 4, row(4), w(4), cells.width);
      memory.splineRow((lines + i * line) * 4, mixed * 4, columns, factor, table * 4);
    }
    each(memory, rows, ownAt * 4, y);
  }
}

/**
 * Blurred rows of a picture, from its reduced grid; at the borders the weights that remain are
 * renormalised.
 * @param reduced at least `cellsOfPixels(region)` of the reduced grid
 * @param own floats of scratch memory that `each` has for itself
 * @param each is given the byte pointers of a blurred row and of its own scratch memory
 */
export function wideBlurRows(
  reduced: Window,
  region: Region,
  size: Size,
  wide: WideGaussian,
  own: number,
  each: (memory: ScratchMemory, soft: number, own: number, y: number) => void,
): void {
  const { factor } = wide;
  const { cells, stride } = cellsAbout(region, factor);
  const blurred = new Float32Array(cells.height * stride);
  const [plane] = reduced.raster.planes as [Float32Array];
  blurCells(plane, reduced.region, cells, reducedSize(size, factor), wide, blurred, stride);
  const across = weightsOn(region.x, region.width, size.width, wide);
  const inside = across.every((weight) => weight === 1);
  const down = weightsOn(region.y, region.height, size.height, wide);
  // The weights lie before what the caller has for itself.
  const weights = strideOf(region.width) + 4;
  const all = own + weights;
  splineRows(
    [blurred],
    region,
    factor,
    all,
    (y) => down[y]!,
    (memory, [soft], at, y) => {
      if (!inside) {
        memory.floats.set(across, at / 4);
        memory.divideRow(soft!, soft!, at, region.width);
      }
      each(memory, soft!, at + weights * 4, y);
    },
  );
}
