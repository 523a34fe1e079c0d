import { LUMA, luminance, toYCbCr } from '../raster/colour';
import { cut, type Raster } from '../raster/raster';
import type { Region, Size } from '../raster/region';
import type { Source } from '../raster/source';

/** Side of a patch in pixels. */
export const PATCH = 64;
/** The most patches across and down: at most a megapixel is looked at, of any picture. */
const ACROSS = 18;
const DOWN = 12;

/** A square of the picture that findings are measured on. */
export interface Patch {
  /** upper left corner on the picture */
  x: number;
  y: number;
  width: number;
  height: number;
  raster: Raster;
  /** luminance, levels 0–255 */
  luma: Float32Array;
  cb: Float32Array;
  cr: Float32Array;
}

/** A sample of a picture: patches on an even grid, and how columns differ from their left ones. */
export interface Sample {
  size: Size;
  /** patches across and down */
  columns: number;
  rows: number;
  patches: Patch[];
  /** between a column and the one before; 0 for the first */
  columnSteps: Steps;
  /** how much each column bends: a logarithm of how far it is off the mean of its neighbours */
  columnBends: Float64Array;
}

/** How luminance differs along one side of a picture, pixel after pixel. */
export interface Steps {
  /** on the mean, in levels */
  all: Float64Array;
  /** the same of what differs by more than compression leaves: by how much more */
  strong: Float64Array;
}

/** From so many levels on a step is strong. */
const STRONG = 8;

const stepsOf = (side: number): Steps => ({
  all: new Float64Array(side),
  strong: new Float64Array(side),
});

/** Adds a step to those at a place, `share` of a mean. */
function addStep({ all, strong }: Steps, at: number, step: number, share: number): void {
  all[at]! += step * share;
  if (step > STRONG) strong[at]! += (step - STRONG) * share;
}

/** Where `count` patches of a picture begin along one side. */
const starts = (side: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) =>
    count === 1 ? Math.max(0, (side - PATCH) >> 1) : Math.round((i * (side - PATCH)) / (count - 1)),
  );

/** A patch from the pixels of its region. */
export function patchOf(raster: Raster, region: Region): Patch {
  const { y: luma, cb, cr } = toYCbCr(raster);
  return { ...region, raster, luma, cb, cr };
}

/** Reads the bands that hold the patches, one after the other, so that memory stays bounded. */
export async function samplePicture(source: Source): Promise<Sample> {
  const { size } = source;
  const columns = Math.max(1, Math.min(ACROSS, Math.floor(size.width / PATCH)));
  const rows = Math.max(1, Math.min(DOWN, Math.floor(size.height / PATCH)));
  const width = Math.min(PATCH, size.width);
  const height = Math.min(PATCH, size.height);
  const columnSteps = stepsOf(size.width);
  const columnBends = new Float64Array(size.width);
  const lines = rows * Math.ceil(height / ROW_STEP);
  const patches: Patch[] = [];
  for (const y of starts(size.height, rows)) {
    const band = { x: 0, y, width: size.width, height };
    const raster = await source.read(band);
    addColumnSteps(columnSteps, columnBends, raster, 1 / lines);
    for (const x of starts(size.width, columns)) {
      const region = { x, y, width, height };
      patches.push(patchOf(cut({ region: band, raster }, region), region));
    }
  }
  return { size, columns, rows, patches, columnSteps, columnBends };
}

/** Every so many rows of a band are enough to know how columns differ. */
const ROW_STEP = 4;

function addColumnSteps(
  steps: Steps,
  bends: Float64Array,
  { width, height, planes }: Raster,
  share: number,
): void {
  const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
  const { red: r, green: g, blue: b } = LUMA;
  for (let y = 0; y < height; y += ROW_STEP) {
    const line = y * width;
    let last = 0;
    let before = r * red[line]! + g * green[line]! + b * blue[line]!;
    for (let x = 1; x < width; x++) {
      const here = r * red[line + x]! + g * green[line + x]! + b * blue[line + x]!;
      addStep(steps, x, Math.abs(here - before) * 255, share);
      // Twice how far the column before is off the mean of its neighbours.
      if (x > 1) bends[x - 1]! += Math.log1p(Math.abs(here - before - last) * 255) * share;
      last = here - before;
      before = here;
    }
  }
}

/** How luminance differs between every row and the one above; reads the picture through. */
export async function rowSteps(source: Source): Promise<Steps> {
  const { width, height } = source.size;
  const steps = stepsOf(height);
  const BAND = 128;
  for (let top = 0; top < height; top += BAND - 1) {
    const band = { x: 0, y: top, width, height: Math.min(BAND, height - top) };
    const luma = luminance(await source.read(band));
    for (let y = 1; y < band.height; y++) {
      for (let x = 0, i = y * width; x < width; x++, i++) {
        addStep(steps, top + y, Math.abs(luma[i]! - luma[i - width]!) * 255, 1 / width);
      }
    }
  }
  return steps;
}

/** How much each row bends, as columns do; reads the picture through. */
export async function rowBends(source: Source): Promise<Float64Array> {
  const { width, height } = source.size;
  const bends = new Float64Array(height);
  const columns = Math.ceil(width / ROW_STEP);
  const BAND = 128;
  for (let top = 0; top + 2 < height; top += BAND - 2) {
    const band = { x: 0, y: top, width, height: Math.min(BAND, height - top) };
    const { planes } = await source.read(band);
    const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
    const { red: r, green: g, blue: b } = LUMA;
    const luma = (i: number) => r * red[i]! + g * green[i]! + b * blue[i]!;
    const sums = new Float64Array(band.height);
    for (let x = 0; x < width; x += ROW_STEP) {
      let above = luma(x);
      let here = luma(x + width);
      for (let y = 1, i = x + 2 * width; y + 1 < band.height; y++, i += width) {
        const below = luma(i);
        sums[y]! += Math.log1p(Math.abs(2 * here - above - below) * 255);
        above = here;
        here = below;
      }
    }
    for (let y = 1; y + 1 < band.height; y++) bends[top + y] = sums[y]! / columns;
  }
  return bends;
}

/** Change within cells of repeated pixels, from compression afterwards, may reach so much above its quiet quarter. */
const UNREST = 1.5;

/** How much columns (or rows) change beyond what compression leaves everywhere. @param steps the first is none */
export function aboveUnrest(steps: Float64Array): Float64Array {
  const floor = UNREST * percentile(steps.subarray(1), 0.25);
  return steps.map((step) => Math.max(0, step - floor));
}

/** The value below which `share` (0–1) of the values lie; 0 where there are none. */
export function percentile(values: readonly number[] | Float64Array, share: number): number {
  if (values.length === 0) return 0;
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}
