import { LUMA } from '../raster/colour';
import type { Window } from '../raster/raster';
import type { Region, Size } from '../raster/region';

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

const LEVELS = 256;
/** Luminance is counted in whole sixteenths of a level: whole numbers are quicker. */
const SIXTEENTHS = 16;
const CAP_16 = CAP * SIXTEENTHS;

/** A square's luminance, and how often each tone, slope and fine difference is there; used anew for each. */
const luma = new Int32Array(CELL * CELL);
const tones = new Uint32Array(LEVELS);
const slopes = new Uint32Array(LEVELS);
const details = new Uint32Array(LEVELS);
/** How much neighbours differ across each line upright and level, before the pixel of that number. */
const upright = new Int32Array(CELL);
const level = new Int32Array(CELL);

/**
 * What a square shows.
 * @param window what was read of the picture; `region` a part of it, of CELL pixels to either side at most
 * @param grid where a block begins in the region, 0–7; null where nothing is known of blocks
 * @returns null where it is too small to tell
 */
export function cellFigures(
  window: Window,
  region: Region,
  grid: { x: number; y: number } | null,
): CellFigures | null {
  const { width, height } = region;
  if (width < 8 || height < 8) return null;
  toLuma(window, region);
  for (const counts of [tones, slopes, details, upright, level]) counts.fill(0);
  let sum = 0;
  let squares = 0;
  let across = 0;
  let down = 0;
  let steepest = -1;
  let steepAt = 0;
  for (let y = 1; y < height - 1; y++) {
    let below16 = 0;
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const here = luma[i]!;
      const left = luma[i - 1]!;
      const right = luma[i + 1]!;
      const above = luma[i - width]!;
      const below = luma[i + width]!;
      sum += here;
      squares += here * here;
      across += right - left;
      down += below - above;
      const toRight = right > here ? right - here : here - right;
      const toBelow = below > here ? below - here : here - below;
      const slope = toRight > toBelow ? toRight : toBelow;
      const about = 4 * here - left - right - above - below;
      const detail = ((about < 0 ? -about : about) + 8) >> 4;
      tones[(here + 8) >> 4]!++;
      slopes[(slope + 8) >> 4]!++;
      details[detail < LEVELS ? detail : LEVELS - 1]!++;
      if (slope > steepest) {
        steepest = slope;
        steepAt = i;
      }
      // The line between a pixel and the next one is that of the next one.
      upright[x + 1]! += toRight < CAP_16 ? toRight : CAP_16;
      below16 += toBelow < CAP_16 ? toBelow : CAP_16;
    }
    level[y + 1] = below16;
  }
  const count = (width - 2) * (height - 2);
  const mean = sum / count / SIXTEENTHS;
  const low = reached(tones, END * count);
  const high = reached(tones, (1 - END) * count);
  const range = high - low;
  const dark = counted(tones, 0, low + range / 4);
  const light = counted(tones, high - range / 4, LEVELS);
  return {
    ...{ mean, range },
    at: { x: steepAt % width, y: Math.floor(steepAt / width) },
    // Both slopes are over two pixels, on the mean.
    climb: (Math.hypot(across, down) / count / 2 / SIXTEENTHS) * CELL,
    deviation: Math.sqrt(Math.max(0, squares / count / SIXTEENTHS ** 2 - mean * mean)),
    fine: reached(details, count / 2) / 4,
    steepest: steepestOf(slopes),
    edges: range > 0 ? counted(slopes, Math.max(1, range / 3), LEVELS) / count : 0,
    twoToned: (dark + light) / count,
    fewer: Math.min(dark, light) / count,
    calm: reached(slopes, 0.98 * count) <= CALM,
    blockSteps: grid ? blockSteps(region, grid) : 0,
  };
}

function toLuma(window: Window, { x, y, width, height }: Region): void {
  const { planes, width: stride } = window.raster;
  const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
  const whole = 255 * SIXTEENTHS;
  const [r, g, b] = [whole * LUMA.red, whole * LUMA.green, whole * LUMA.blue];
  for (let v = 0, i = 0; v < height; v++) {
    let at = (y - window.region.y + v) * stride + x - window.region.x;
    for (let u = 0; u < width; u++, i++, at++) {
      const value = (r * red[at]! + g * green[at]! + b * blue[at]! + 0.5) | 0;
      luma[i] = value < 0 ? 0 : value > whole ? whole : value;
    }
  }
}

/** The level up to which so many are counted. */
function reached(histogram: Uint32Array, count: number): number {
  let seen = 0;
  for (let i = 0; i < LEVELS; i++) {
    seen += histogram[i]!;
    if (seen >= count) return i;
  }
  return LEVELS - 1;
}

/** How many lie from one level up to, but not at, another. */
function counted(histogram: Uint32Array, from: number, to: number): number {
  let seen = 0;
  for (let i = Math.max(0, Math.ceil(from)); i < Math.min(LEVELS, to); i++) seen += histogram[i]!;
  return seen;
}

function steepestOf(histogram: Uint32Array): number {
  let [sum, seen] = [0, 0];
  for (let i = LEVELS - 1; i >= 0 && seen < STEEPEST; i--) {
    const taken = Math.min(STEEPEST - seen, histogram[i]!);
    sum += taken * i;
    seen += taken;
  }
  return seen === 0 ? 0 : sum / seen;
}

/** How much more neighbours differ across lines of the grid than across the strongest of the other lines, which patterns have. */
function blockSteps({ width, height }: Size, grid: { x: number; y: number }): number {
  const sums = new Float64Array(8);
  const counts = new Float64Array(8);
  const add = (lines: Int32Array, length: number, begins: number, each: number) => {
    for (let line = 2; line < length; line++) {
      sums[(line - begins) & 7]! += lines[line]!;
      counts[(line - begins) & 7]! += each;
    }
  };
  add(upright, width, grid.x, height - 2);
  add(level, height, grid.y, width - 2);
  const [border, ...inside] = sums.map((sum, line) => sum / Math.max(1, counts[line]!));
  return Math.max(0, border! - Math.max(...inside)) / SIXTEENTHS;
}
