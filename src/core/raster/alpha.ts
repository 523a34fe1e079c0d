import { emptyRaster, type Raster } from './raster';
import { RGB } from './form';

/** Colour times coverage, so that mixing neighbours doesn't mix in what can't be seen. */
export function premultiplied({ width, height, form, planes }: Raster): Raster {
  const alpha = planes[3]!;
  const colours = planes.slice(0, 3).map((plane) => plane.map((value, i) => value * alpha[i]!));
  return { width, height, form, planes: [...colours, alpha] };
}

/** The inverse of `premultiplied`, in place; where nothing covers, colour stays as it is. */
export function unpremultiply(raster: Raster): Raster {
  const alpha = raster.planes[3]!;
  for (const plane of raster.planes.slice(0, 3)) {
    for (let i = 0; i < plane.length; i++) if (alpha[i]! > 1e-6) plane[i]! /= alpha[i]!;
  }
  return raster;
}

/** Four planes laid on a colour: three planes. */
export function compositeOver(raster: Raster, colour: readonly number[]): Raster {
  const result = emptyRaster(raster.width, raster.height, RGB);
  const alpha = raster.planes[3]!;
  result.planes.forEach((plane, channel) => {
    const from = raster.planes[channel]!;
    const under = colour[channel]!;
    for (let i = 0; i < plane.length; i++) plane[i] = under + alpha[i]! * (from[i]! - under);
  });
  return result;
}
