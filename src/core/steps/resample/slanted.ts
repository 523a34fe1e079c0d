import { pairsOf } from '../../raster/pixels';
import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import { resampleAbout } from './about';
import type { AxisMethod } from './filter';
import { pullAround, walk, widening, type Slant } from './grid';
import { kernels, type SeparableKernel } from './kernels';

const radiusOf = (method: AxisMethod): number =>
  method === 'nearest' ? 0.5 : kernels[method].radius;

/** The part of the frame that `region` of the target needs. */
export const slantedInput = (slant: Slant, method: AxisMethod, region: Region): Region =>
  pullAround(slant, region, reachOf(slant, method));

/** How far a place looks: a limiter two pixels at the least. */
const reachOf = (slant: Slant, method: AxisMethod): number =>
  Math.max(2, radiusOf(method) * widening(slant));

/** Samples of a kernel a source pixel; between them it is taken as straight. */
const FINENESS = 1024;
const tables = new Map<SeparableKernel, Float32Array>();

function tableOf(method: SeparableKernel): Float32Array {
  let table = tables.get(method);
  if (!table) {
    const { weight, radius } = kernels[method];
    table = pairsOf(weight, radius, FINENESS);
    tables.set(method, table);
  }
  return table;
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
  if (method === 'nearest') return nearestSlanted(input, slant, region);
  const widened = widening(slant);
  const support = radiusOf(method) * widened;
  const drawn = widened === 1 ? limit : 0;
  return resampleAbout(input, slant, region, {
    ...{ support: reachOf(slant, method), rim: 0, table: tableOf(method) },
    weigh: (memory, ...laid) => memory.weighSlanted(...laid, support, drawn, FINENESS / widened),
  });
}

function nearestSlanted({ region: covered, raster }: Window, slant: Slant, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, raster.form);
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const { frame } = slant;
  for (let v = 0, i = 0; v < region.height; v++) {
    for (let u = 0; u < region.width; u++, i++) {
      const cx = x + (region.x + u) * acrossX + (region.y + v) * downX;
      const cy = y + (region.x + u) * acrossY + (region.y + v) * downY;
      const px = Math.min(Math.max(Math.round(cx), 0), frame.width - 1);
      const py = Math.min(Math.max(Math.round(cy), 0), frame.height - 1);
      const at = (py - covered.y) * covered.width + px - covered.x;
      result.planes.forEach((plane, c) => (plane[i] = raster.planes[c]![at]!));
    }
  }
  return result;
}
