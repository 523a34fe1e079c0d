import type { Transform } from '../colour/engine';
import { blueNoise, TILE } from '../raster/dither';
import { formOf } from '../colour/form';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import type { Region, Size } from '../raster/region';
import { clip } from '../raster/region';
import { MM_PER_INCH } from '../measure/units';
import type { Screen } from './protocol';

/** What a device's inks look like: amounts of light, 0–1, in the primaries of a screen. */
export interface InkColours {
  /** of bare material and every combination of solid inks, by a bit an ink: three a combination */
  solids: Float64Array;
  /** for each ink, the share of material that it covers for an amount of it, which is more: dots gain */
  covers: Float64Array[];
}

/** Amounts of ink at which coverage is looked up. */
const STEPS = 64;
const INK_COUNT = 4;
const COMBINATIONS = 1 << INK_COUNT;
/** The channel of a screen in which each ink shows most: red for cyan, and so on. */
const SHOWS_IN = [0, 1, 2, 1] as const;

/** sRGB to an amount of light, and back (IEC 61966-2-1). */
const toLight = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const fromLight = (v: number): number =>
  v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;

/**
 * Reads inks from the profile of a device: solids mix as Neugebauer (1937) has it, and coverage follows from how light a
 * wedge of one ink is (Murray and Davies, 1936).
 * @param toScreen from the profile's CMYK to sRGB
 */
export function inkColours(toScreen: Transform): InkColours {
  const combinations = emptyRaster(COMBINATIONS, 1, formOf('cmyk', false));
  for (let mask = 0; mask < COMBINATIONS; mask++) {
    for (let ink = 0; ink < INK_COUNT; ink++) combinations.planes[ink]![mask] = (mask >> ink) & 1;
  }
  const seen = toScreen.apply(combinations);
  const solids = new Float64Array(COMBINATIONS * 3);
  for (let mask = 0; mask < COMBINATIONS; mask++) {
    for (let c = 0; c < 3; c++) solids[3 * mask + c] = toLight(seen.planes[c]![mask]!);
  }
  const covers = SHOWS_IN.map((channel, ink) => {
    const wedge = emptyRaster(STEPS + 1, 1, formOf('cmyk', false));
    for (let i = 0; i <= STEPS; i++) wedge.planes[ink]![i] = i / STEPS;
    const light = Float64Array.from(toScreen.apply(wedge).planes[channel]!, toLight);
    const [bare, solid] = [light[0]!, light[STEPS]!];
    let most = 0;
    return light.map((one) => (most = Math.min(1, Math.max(most, (bare - one) / (bare - solid)))));
  });
  return { solids, covers };
}

/** A print that is looked at. */
export interface Printed {
  /** dots across and down */
  dots: Size;
  /** pixels that it was printed from */
  pixels: Size;
  screen: Screen;
  colours: InkColours;
  /** amounts of the four inks, of a region of these pixels */
  read(region: Region): Promise<Raster>;
}

/** Above so many halvings dots are too small to be told apart, and what they come to on the mean shows. */
export const DOTS_TO_LEVEL = 2;

/**
 * What a part of a print looks like, as an sRGB raster.
 * @param region in dots that were halved `level` times
 */
export async function printLook(printed: Printed, region: Region, level: number): Promise<Raster> {
  const scale = 2 ** level;
  const light =
    level <= DOTS_TO_LEVEL
      ? await dotsSeen(printed, region, scale)
      : await meansSeen(printed, region, scale);
  const result = emptyRaster(region.width, region.height, RGB);
  for (let c = 0; c < 3; c++) {
    const plane = result.planes[c]!;
    for (let i = 0; i < plane.length; i++) plane[i] = fromLight(light[3 * i + c]!);
  }
  return result;
}

/** Ink that runs by less than this, in pixels of what is looked at, is not seen. */
const SEEN = 0.3;

/** Light of a region of single dots, their ink run, in means of `scale` by `scale` of them. */
async function dotsSeen(printed: Printed, region: Region, scale: number): Promise<Float64Array> {
  const { screen, dots, colours } = printed;
  const sigma = (screen.spread / MM_PER_INCH) * screen.dpi;
  const reach = sigma / scale < SEEN ? 0 : Math.ceil(3 * sigma);
  const wanted = {
    ...{ x: region.x * scale, y: region.y * scale },
    ...{ width: region.width * scale, height: region.height * scale },
  };
  const around = {
    ...{ x: wanted.x - reach, y: wanted.y - reach },
    ...{ width: wanted.width + 2 * reach, height: wanted.height + 2 * reach },
  };
  const { amounts, columns, rows } = await under(printed, around);
  const threshold = thresholdsOf(screen);
  const { width, height } = around;
  const light = new Float64Array(width * height * 3);
  const stride = amounts.width;
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 3) {
      const [dx, dy] = [around.x + x, around.y + y];
      let mask = 0;
      if (dx >= 0 && dy >= 0 && dx < dots.width && dy < dots.height) {
        const pixel = rows[y]! * stride + columns[x]!;
        for (let ink = 0; ink < INK_COUNT; ink++) {
          if (covered(colours, ink, amounts.planes[ink]![pixel]!) > threshold(ink, dx, dy))
            mask |= 1 << ink;
        }
      }
      light.set(colours.solids.subarray(3 * mask, 3 * mask + 3), at);
    }
  }
  return meanOf(run(light, width, height, sigma, reach), around, region, scale, reach);
}

/** Light of a region as its dots come to on the mean: each share of material by the inks that lie there (Demichel, 1924). */
async function meansSeen(printed: Printed, region: Region, scale: number): Promise<Float64Array> {
  const { dots, pixels, colours } = printed;
  const [across, down] = [pixels.width / dots.width, pixels.height / dots.height];
  const edge = (at: number, by: number, most: number) =>
    Math.min(most, Math.max(0, Math.floor(at * scale * by)));
  const left = edge(region.x, across, pixels.width - 1);
  const top = edge(region.y, down, pixels.height - 1);
  const covering = {
    ...{ x: left, y: top },
    width: Math.max(1, edge(region.x + region.width, across, pixels.width) - left),
    height: Math.max(1, edge(region.y + region.height, down, pixels.height) - top),
  };
  const amounts = await printed.read(covering);
  const light = new Float64Array(region.width * region.height * 3);
  const shares = new Float64Array(INK_COUNT);
  for (let v = 0, at = 0; v < region.height; v++) {
    const first = Math.min(covering.height - 1, edge(region.y + v, down, pixels.height) - top);
    const last = Math.max(
      first + 1,
      Math.min(covering.height, edge(region.y + v + 1, down, pixels.height) - top),
    );
    for (let u = 0; u < region.width; u++, at += 3) {
      const begin = Math.min(covering.width - 1, edge(region.x + u, across, pixels.width) - left);
      const end = Math.max(
        begin + 1,
        Math.min(covering.width, edge(region.x + u + 1, across, pixels.width) - left),
      );
      for (let ink = 0; ink < INK_COUNT; ink++) {
        const plane = amounts.planes[ink]!;
        let sum = 0;
        for (let y = first; y < last; y++)
          for (let x = begin; x < end; x++)
            sum += covered(colours, ink, plane[y * covering.width + x]!);
        shares[ink] = sum / ((last - first) * (end - begin));
      }
      addMixed(light, at, shares, colours.solids);
    }
  }
  return light;
}

function addMixed(
  light: Float64Array,
  at: number,
  shares: Float64Array,
  solids: Float64Array,
): void {
  for (let mask = 0; mask < COMBINATIONS; mask++) {
    let share = 1;
    for (let ink = 0; ink < INK_COUNT; ink++) {
      share *= (mask >> ink) & 1 ? shares[ink]! : 1 - shares[ink]!;
    }
    for (let c = 0; c < 3; c++) light[at + c]! += share * solids[3 * mask + c]!;
  }
}

/** The share of material that an amount of ink covers. */
function covered({ covers }: InkColours, ink: number, amount: number): number {
  const table = covers[ink]!;
  const at = Math.min(1, Math.max(0, amount)) * STEPS;
  const step = Math.min(STEPS - 1, Math.floor(at));
  return table[step]! + (at - step) * (table[step + 1]! - table[step]!);
}

/** The pixels under a region of dots, and in which column and row of them each dot lies. */
async function under(
  { dots, pixels, read }: Printed,
  region: Region,
): Promise<{ amounts: Raster; columns: Int32Array; rows: Int32Array }> {
  const pixelOf = (dot: number, of: number, whole: number) =>
    Math.min(whole - 1, Math.max(0, Math.floor(((dot + 0.5) * whole) / of)));
  const columns = Int32Array.from({ length: region.width }, (_, i) =>
    pixelOf(region.x + i, dots.width, pixels.width),
  );
  const rows = Int32Array.from({ length: region.height }, (_, i) =>
    pixelOf(region.y + i, dots.height, pixels.height),
  );
  const [left, top] = [columns[0]!, rows[0]!];
  const covering = {
    ...{ x: left, y: top },
    width: columns.at(-1)! - left + 1,
    height: rows.at(-1)! - top + 1,
  };
  const amounts = await read(clip(covering, pixels));
  return { amounts, columns: columns.map((x) => x - left), rows: rows.map((y) => y - top) };
}

/** Where in its cell of the screen a dot is set, by the amount of ink from which on it is: 0–1. */
type Threshold = (ink: number, x: number, y: number) => number;

function thresholdsOf({ way, dpi, lines }: Screen): Threshold {
  return way === 'scattered' ? scattered() : inRows(lines / dpi);
}

/** Where the inks' patterns lie against each other, so that their dots fall apart. */
const SHIFTS = [
  [0, 0],
  [23, 41],
  [47, 13],
  [11, 29],
] as const;

function scattered(): Threshold {
  const tile = blueNoise();
  return (ink, x, y) => {
    const [across, down] = SHIFTS[ink]!;
    return tile[((y + down) & (TILE - 1)) * TILE + ((x + across) & (TILE - 1))]!;
  };
}

/** Angles of the inks' rows, in degrees, as far apart as they can be for those that are seen most. */
const ANGLES = [15, 75, 0, 45] as const;
/** Steps of the table that makes a round dot cover what it should. */
const RANKS = 512;
let dotRanks: Float64Array | undefined;

/** @param pitch rows a dot */
function inRows(pitch: number): Threshold {
  dotRanks ??= ranksOfDot();
  const ranks = dotRanks;
  const turns = ANGLES.map((degrees) => {
    const angle = (degrees / 180) * Math.PI;
    return {
      cos: Math.cos(angle) * pitch * 2 * Math.PI,
      sin: Math.sin(angle) * pitch * 2 * Math.PI,
    };
  });
  return (ink, x, y) => {
    const { cos, sin } = turns[ink]!;
    const height = Math.cos(x * cos + y * sin) + Math.cos(y * cos - x * sin);
    return ranks[Math.round(((2 - height) / 4) * RANKS)]!;
  };
}

/** The share of a cell that lies higher than a height of a round dot, from its top to its bottom. */
function ranksOfDot(): Float64Array {
  const counts = new Float64Array(RANKS + 1);
  const side = 256;
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const height =
        Math.cos((2 * Math.PI * (x + 0.5)) / side) + Math.cos((2 * Math.PI * (y + 0.5)) / side);
      counts[Math.round(((2 - height) / 4) * RANKS)]!++;
    }
  }
  let sum = 0;
  return counts.map((count) => {
    sum += count;
    return (sum - count / 2) / (side * side);
  });
}

/** Ink that has run: a Gaussian over the light that is left, its margin of `reach` not made good. */
function run(
  light: Float64Array,
  width: number,
  height: number,
  sigma: number,
  reach: number,
): Float64Array {
  if (reach === 0) return light;
  const taps = Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = taps.reduce((all, one) => all + one, 0);
  for (let i = 0; i < taps.length; i++) taps[i]! /= sum;
  const across = new Float64Array(light.length);
  for (let y = 0; y < height; y++) {
    for (let x = reach; x < width - reach; x++) {
      const at = 3 * (y * width + x);
      for (let k = -reach; k <= reach; k++) {
        const tap = taps[k + reach]!;
        for (let c = 0; c < 3; c++) across[at + c]! += tap * light[at + 3 * k + c]!;
      }
    }
  }
  const both = new Float64Array(light.length);
  for (let y = reach; y < height - reach; y++) {
    for (let x = reach; x < width - reach; x++) {
      const at = 3 * (y * width + x);
      for (let k = -reach; k <= reach; k++) {
        const tap = taps[k + reach]!;
        for (let c = 0; c < 3; c++) both[at + c]! += tap * across[at + 3 * k * width + c]!;
      }
    }
  }
  return both;
}

/** Means of squares of dots. */
function meanOf(
  light: Float64Array,
  around: Region,
  region: Region,
  scale: number,
  reach: number,
): Float64Array {
  const means = new Float64Array(region.width * region.height * 3);
  for (let v = 0, i = 0; v < region.height; v++) {
    for (let u = 0; u < region.width; u++, i += 3) {
      for (let y = 0; y < scale; y++) {
        const row = (reach + v * scale + y) * around.width + reach + u * scale;
        for (let at = 3 * row, end = at + 3 * scale; at < end; at += 3) {
          for (let c = 0; c < 3; c++) means[i + c]! += light[at + c]!;
        }
      }
      for (let c = 0; c < 3; c++) means[i + c]! /= scale * scale;
    }
  }
  return means;
}
