import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import type { AxisMethod } from './filter';
import { limitTo, pullAround, walk, widening, type Slant } from './grid';
import { kernels, type SeparableKernel } from './kernels';

const radiusOf = (method: AxisMethod): number =>
  method === 'nearest' ? 0.5 : kernels[method].radius;

/** The part of the frame that `region` of the target needs. */
export const slantedPull = (slant: Slant, method: AxisMethod, region: Region): Region =>
  // A limiter looks two pixels far.
  pullAround(slant, region, Math.max(2, radiusOf(method) * widening(slant)));

/** Samples of a kernel a source pixel; between them it is taken as straight. */
const FINENESS = 1024;
const tables = new Map<SeparableKernel, Float64Array>();

function tableOf(method: SeparableKernel): Float64Array {
  let table = tables.get(method);
  if (!table) {
    const kernel = kernels[method];
    table = Float64Array.from({ length: kernel.radius * FINENESS + 2 }, (_, i) =>
      kernel.weight(i / FINENESS),
    );
    tables.set(method, table);
  }
  return table;
}

/** Kernel weights of the `count` pixels from `first` on, around `centre`; returns their sum. */
function weigh(
  weights: Float64Array,
  table: Float64Array,
  first: number,
  count: number,
  centre: number,
  scale: number,
): number {
  let sum = 0;
  for (let k = 0; k < count; k++) {
    const at = Math.abs(first + k - centre) * scale;
    const i = Math.floor(at);
    const weight = i + 1 < table.length ? table[i]! + (at - i) * (table[i + 1]! - table[i]!) : 0;
    weights[k] = weight;
    sum += weight;
  }
  return sum;
}

/**
 * Resampling at an angle: straightening and enlarging in one go, so that pixels are made anew only
 * once. The kernel stands upright on the frame, its taps outside are left out and the rest
 * renormalised, as in the upright resampling.
 */
export function resampleSlanted(
  input: Window,
  slant: Slant,
  method: AxisMethod,
  region: Region,
  limit = 0,
): Raster {
  const result = emptyRaster(region.width, region.height, input.raster.planes.length);
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const { frame } = slant;
  const { region: covered, raster } = input;
  const planes = raster.planes;
  const widened = widening(slant);
  const support = radiusOf(method) * widened;
  const table = method === 'nearest' ? null : tableOf(method);
  const across = new Float64Array(Math.ceil(2 * support) + 2);
  const down = new Float64Array(across.length);
  const sums = new Float64Array(planes.length);

  for (let v = 0, i = 0; v < region.height; v++) {
    for (let u = 0; u < region.width; u++, i++) {
      const cx = x + (region.x + u) * acrossX + (region.y + v) * downX;
      const cy = y + (region.x + u) * acrossY + (region.y + v) * downY;
      if (!table) {
        const px = Math.min(Math.max(Math.round(cx), 0), frame.width - 1);
        const py = Math.min(Math.max(Math.round(cy), 0), frame.height - 1);
        const at = (py - covered.y) * covered.width + px - covered.x;
        for (let c = 0; c < planes.length; c++) result.planes[c]![i] = planes[c]![at]!;
        continue;
      }
      // A centre beyond the rim stands on it: there is nothing out there to weigh.
      const inX = Math.min(Math.max(cx, 0), frame.width - 1);
      const inY = Math.min(Math.max(cy, 0), frame.height - 1);
      const left = Math.max(Math.floor(inX - support) + 1, 0);
      const top = Math.max(Math.floor(inY - support) + 1, 0);
      const columns = Math.min(Math.ceil(inX + support) - 1, frame.width - 1) - left + 1;
      const rows = Math.min(Math.ceil(inY + support) - 1, frame.height - 1) - top + 1;
      const scale = FINENESS / widened;
      const total =
        weigh(across, table, left, columns, inX, scale) * weigh(down, table, top, rows, inY, scale);
      sums.fill(0);
      for (let r = 0; r < rows; r++) {
        const line = (top + r - covered.y) * covered.width + left - covered.x;
        const weight = down[r]!;
        for (let c = 0; c < planes.length; c++) {
          const plane = planes[c]!;
          let sum = 0;
          for (let k = 0; k < columns; k++) sum += across[k]! * plane[line + k]!;
          sums[c]! += weight * sum;
        }
      }
      for (let c = 0; c < planes.length; c++) sums[c]! /= total;
      if (limit > 0 && widened === 1) limitTo(planes, covered, frame, inX, inY, limit, sums);
      for (let c = 0; c < planes.length; c++) result.planes[c]![i] = sums[c]!;
    }
  }
  return result;
}
