import { emptyRaster, rowStart, type Raster, type Window } from './raster';
import type { Region } from './region';

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
    const [from, to] = [rowStart(before.region, region, y), rowStart(after.region, region, y)];
    const on = limits ? rowStart(limits.region, region, y) : 0;
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
    multiplyRun(
      plane,
      y * width,
      a,
      rowStart(one.region, region, y),
      b,
      rowStart(other.region, region, y),
      width,
    );
  }
  return result;
}

/** The value that a window's first plane has all over `region`; null where it has several. */
export function onlyValue(window: Window, region: Region): number | null {
  const [plane] = window.raster.planes as [Float32Array];
  const value = plane[rowStart(window.region, region, 0)]!;
  for (let y = 0; y < region.height; y++) {
    const from = rowStart(window.region, region, y);
    for (let i = from; i < from + region.width; i++) if (plane[i] !== value) return null;
  }
  return value;
}

function clampRun(
  out: Float32Array,
  start: number,
  values: Float32Array,
  from: number,
  n: number,
): void {
  for (let x = 0; x < n; x++) {
    const value = values[from + x]!;
    out[start + x] = value > 0 ? (value < 1 ? value : 1) : 0;
  }
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
        rowStart(window.region, region, y),
        region.width,
      ),
    );
  }
  return result;
}
