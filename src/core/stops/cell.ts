import { luminance } from '../raster/colour';
import type { Raster } from '../raster/raster';

/** Side of the squares in which a picture is looked through, in pixels. */
export const CELL = 64;

/** What a square of a picture shows, in levels of luminance, 0–255. */
export interface CellFigures {
  mean: number;
  deviation: number;
  /** from its darkest to its lightest, but for 2 % at either end */
  range: number;
  /** the middle one of how far pixels differ from what lies about them */
  fine: number;
  /** the steepest slopes, a pixel, on the mean, and where the steepest is */
  steepest: number;
  at: { x: number; y: number };
  /** share of its pixels on a slope of a fair part of its range */
  edges: number;
  /** share of its pixels near one end of its range or the other; of those, at the end that has fewer */
  twoToned: number;
  fewer: number;
  /** how far it climbs from side to side, and whether nothing in it is steep */
  climb: number;
  calm: boolean;
  /** how much more neighbours differ across lines of the 8 x 8 grid than beside them */
  blockSteps: number;
}

/** So many of the steepest slopes tell how steep a square is: an edge as long as half of it. */
const STEEPEST = 32;
/** The share at either end of the tones that is no part of their range. */
const END = 0.02;
/** Differences count up to so many levels, so that a few strong edges aren't taken for blocks. */
const CAP = 24;
/** Steeper slopes are no gradient. */
const CALM = 6;

/**
 * What a square shows.
 * @param grid where a block begins in it, 0–7; null where nothing is known of blocks
 */
export function cellFigures(
  raster: Raster,
  grid: { x: number; y: number } | null,
): CellFigures | null {
  const { width, height } = raster;
  if (width < 8 || height < 8) return null;
  const luma = luminance(raster);
  const tones = new Uint32Array(256);
  const slopes = new Uint32Array(256);
  const details = new Uint32Array(256);
  const level = (value: number) => Math.min(255, Math.max(0, Math.round(value)));
  let [sum, squares, across, down] = [0, 0, 0, 0];
  let steepest = -1;
  let at = { x: 0, y: 0 };
  for (let i = 0; i < luma.length; i++) luma[i] = Math.min(255, Math.max(0, 255 * luma[i]!));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const here = luma[i]!;
      const [left, right] = [luma[i - 1]!, luma[i + 1]!];
      const [above, below] = [luma[i - width]!, luma[i + width]!];
      sum += here;
      squares += here * here;
      across += right - left;
      down += below - above;
      const slope = Math.max(Math.abs(right - here), Math.abs(below - here));
      tones[level(here)]!++;
      slopes[level(slope)]!++;
      details[level(4 * Math.abs(here - (left + right + above + below) / 4))]!++;
      if (slope > steepest) {
        steepest = slope;
        at = { x, y };
      }
    }
  const count = (width - 2) * (height - 2);
  const mean = sum / count;
  const low = reached(tones, END * count);
  const high = reached(tones, (1 - END) * count);
  const range = high - low;
  const dark = counted(tones, 0, low + range / 4);
  const light = counted(tones, high - range / 4, 256);
  // Both slopes are over two pixels, on the mean.
  const climb = (Math.hypot(across, down) / count / 2) * CELL;
  return {
    ...{ mean, range, at, climb },
    deviation: Math.sqrt(Math.max(0, squares / count - mean * mean)),
    fine: reached(details, count / 2) / 4,
    steepest: steepestOf(slopes),
    edges: range > 0 ? counted(slopes, Math.max(1, range / 3), 256) / count : 0,
    twoToned: (dark + light) / count,
    fewer: Math.min(dark, light) / count,
    calm: reached(slopes, 0.98 * count) <= CALM,
    blockSteps: grid ? blockSteps(luma, width, height, grid) : 0,
  };
}

/** The level up to which so many are counted. */
function reached(histogram: Uint32Array, count: number): number {
  let seen = 0;
  for (let i = 0; i < 256; i++) {
    seen += histogram[i]!;
    if (seen >= count) return i;
  }
  return 255;
}

/** How many lie from one level up to, but not at, another. */
function counted(histogram: Uint32Array, from: number, to: number): number {
  let seen = 0;
  for (let i = Math.max(0, Math.ceil(from)); i < Math.min(256, to); i++) seen += histogram[i]!;
  return seen;
}

function steepestOf(slopes: Uint32Array): number {
  let [sum, seen] = [0, 0];
  for (let i = 255; i >= 0 && seen < STEEPEST; i--) {
    const taken = Math.min(STEEPEST - seen, slopes[i]!);
    sum += taken * i;
    seen += taken;
  }
  return seen === 0 ? 0 : sum / seen;
}

function blockSteps(
  luma: Float32Array,
  width: number,
  height: number,
  grid: { x: number; y: number },
): number {
  const steps = new Float64Array(8);
  const counts = new Float64Array(8);
  const add = (line: number, difference: number) => {
    steps[line]! += Math.min(difference, CAP);
    counts[line]!++;
  };
  for (let y = 1; y < height; y++)
    for (let x = 1, i = y * width + 1; x < width; x++, i++) {
      add((x - grid.x + 8) & 7, Math.abs(luma[i]! - luma[i - 1]!));
      add((y - grid.y + 8) & 7, Math.abs(luma[i]! - luma[i - width]!));
    }
  // Beside the strongest of the others, since patterns have lines of their own.
  const [border, ...inside] = steps.map((sum, line) => sum / Math.max(1, counts[line]!));
  return Math.max(0, border! - Math.max(...inside));
}
