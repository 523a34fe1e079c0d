import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';

/** A ring on a ground with a bar across its middle, soft at its edges. */
export function ring(form = RGB): Raster {
  const side = 72;
  const raster = emptyRaster(side, side, form);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++)
      for (let k = 0; k < 16; k++) {
        const u = x + ((k % 4) + 0.5) / 4 - 36;
        const v = y + ((k >> 2) + 0.5) / 4 - 36;
        const far = Math.hypot(u, v);
        const bar = Math.abs(v) < 6 && Math.abs(u) < 30;
        const ring = far > 16 && far < 27;
        const colour = bar ? [0.8, 0.2, 0.1] : ring ? [0.1, 0.25, 0.5] : [0.96, 0.94, 0.88];
        colour.forEach((value, c) => (raster.planes[c]![y * side + x]! += value / 16));
        if (form.alpha && (bar || ring)) raster.planes[3]![y * side + x]! += 1 / 16;
      }
  return raster;
}

/** What climbs from left to right, 120 pixels a side. */
export function faded(): Raster {
  const raster = emptyRaster(120, 120, RGB);
  raster.planes.forEach((plane, c) =>
    plane.forEach((_, i) => (plane[i] = 0.2 + (0.6 * (i % 120)) / 120 + 0.1 * c)),
  );
  return raster;
}
