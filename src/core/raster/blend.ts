import { emptyRaster, type Raster, type Window } from './raster';
import type { Region } from './region';

/** Where a row of a region begins in a window's planes. */
const startIn = ({ region: covered }: Window, region: Region, y: number): number =>
  (region.y + y - covered.y) * covered.width + region.x - covered.x;

// Loops over runs of plain arrays, each a function of its own: this is done with every sample of a print.

function blendRun(
  out: Float32Array,
  start: number,
  before: Float32Array,
  from: number,
  after: Float32Array,
  to: number,
  share: number,
  n: number,
): void {
  for (let x = 0; x < n; x++) {
    const value = before[from + x]!;
    out[start + x] = value + share * (after[to + x]! - value);
  }
}

function blendLimited(
  out: Float32Array,
  start: number,
  before: Float32Array,
  from: number,
  after: Float32Array,
  to: number,
  limits: Float32Array,
  on: number,
  share: number,
  n: number,
): void {
  for (let x = 0; x < n; x++) {
    const value = before[from + x]!;
    out[start + x] = value + share * limits[on + x]! * (after[to + x]! - value);
  }
}

/**
 * out = before + share x limit x (after - before): share 0 is the picture as it was before.
 * @param share 0–1 @param limits strengths 0–1, one plane; 1 everywhere where there are none
 * @returns `region`, which all windows cover
 */
export function blend(
  before: Window,
  after: Window,
  share: number,
  limits: Window | undefined,
  region: Region,
): Raster {
  const result = emptyRaster(region.width, region.height, before.raster.form);
  const { width } = region;
  const limit = limits?.raster.planes[0];
  for (let y = 0; y < region.height; y++) {
    const [from, to] = [startIn(before, region, y), startIn(after, region, y)];
    const on = limits ? startIn(limits, region, y) : 0;
    for (let c = 0; c < result.planes.length; c++) {
      const [out, was, is] = [result.planes[c]!, before.raster.planes[c]!, after.raster.planes[c]!];
      if (limit) blendLimited(out, y * width, was, from, is, to, limit, on, share, width);
      else blendRun(out, y * width, was, from, is, to, share, width);
    }
  }
  return result;
}

function multiplyRun(
  out: Float32Array,
  start: number,
  a: Float32Array,
  from: number,
  b: Float32Array,
  to: number,
  n: number,
): void {
  for (let x = 0; x < n; x++) out[start + x] = a[from + x]! * b[to + x]!;
}

/** One plane times another, over `region`. */
export function product(one: Window, other: Window, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, one.raster.form);
  const [plane] = result.planes as [Float32Array];
  const [a, b] = [one.raster.planes[0]!, other.raster.planes[0]!];
  const { width } = region;
  for (let y = 0; y < region.height; y++) {
    multiplyRun(plane, y * width, a, startIn(one, region, y), b, startIn(other, region, y), width);
  }
  return result;
}

/** The least and the greatest value of a window's first plane over `region`. */
export function valueRange(window: Window, region: Region): { least: number; most: number } {
  const [plane] = window.raster.planes as [Float32Array];
  let least = Infinity;
  let most = -Infinity;
  for (let y = 0; y < region.height; y++) {
    const from = startIn(window, region, y);
    for (let i = from; i < from + region.width; i++) {
      const value = plane[i]!;
      if (value < least) least = value;
      if (value > most) most = value;
    }
  }
  return { least, most };
}

function clampRun(
  out: Float32Array,
  start: number,
  values: Float32Array,
  from: number,
  n: number,
): void {
  for (let x = 0; x < n; x++) out[start + x] = Math.min(1, Math.max(0, values[from + x]!));
}

/** Values cut off at 0 and 1. */
export function clampToOne(window: Window, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, window.raster.form);
  for (let y = 0; y < region.height; y++) {
    result.planes.forEach((plane, c) =>
      clampRun(
        plane,
        y * region.width,
        window.raster.planes[c]!,
        startIn(window, region, y),
        region.width,
      ),
    );
  }
  return result;
}
