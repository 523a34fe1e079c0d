import type { Raster } from '../raster/raster';

/** How many pixels have each of 256 tones, for R, G, B, and what share lies at either end. */
export interface Histogram {
  counts: [Uint32Array, Uint32Array, Uint32Array];
  /** 0–1, of any channel: as dark, and as bright, as can be */
  clipped: { dark: number; bright: number };
}

/** Counts the tones of a picture as they would be written with 8 bits. */
export function histogramOf({ planes }: Raster): Histogram {
  const counts = [0, 1, 2].map(() => new Uint32Array(256)) as Histogram['counts'];
  const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
  let dark = 0;
  let bright = 0;
  const level = (value: number) => Math.min(255, Math.max(0, Math.round(value * 255)));
  for (let i = 0; i < red.length; i++) {
    const [r, g, b] = [level(red[i]!), level(green[i]!), level(blue[i]!)];
    counts[0][r]!++;
    counts[1][g]!++;
    counts[2][b]!++;
    if (r === 0 || g === 0 || b === 0) dark++;
    if (r === 255 || g === 255 || b === 255) bright++;
  }
  return { counts, clipped: { dark: dark / red.length, bright: bright / red.length } };
}
