import type { Raster } from './raster';

/** Weights of Rec. ITU-R BT.601 for luminance from encoded R, G, B. */
export const LUMA = { red: 0.299, green: 0.587, blue: 0.114 } as const;

/** Luminance of an RGB raster on its encoded values: one plane, 0–1. */
export function luminance(raster: Raster): Float32Array {
  const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
  const result = new Float32Array(red.length);
  for (let i = 0; i < result.length; i++) {
    result[i] = LUMA.red * red[i]! + LUMA.green * green[i]! + LUMA.blue * blue[i]!;
  }
  return result;
}

/** Luminance and colour differences, each a plane in levels (0–255; differences -128–127). */
export interface YCbCr {
  y: Float32Array;
  cb: Float32Array;
  cr: Float32Array;
}

/** RGB (0–1) to full-range YCbCr in levels, as JFIF 1.02 defines it, without the offset of 128. */
export function toYCbCr(raster: Raster): YCbCr {
  const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
  const count = red.length;
  const result = {
    y: new Float32Array(count),
    cb: new Float32Array(count),
    cr: new Float32Array(count),
  };
  for (let i = 0; i < count; i++) {
    const r = red[i]! * 255;
    const g = green[i]! * 255;
    const b = blue[i]! * 255;
    const y = LUMA.red * r + LUMA.green * g + LUMA.blue * b;
    result.y[i] = y;
    result.cb[i] = (b - y) / 1.772;
    result.cr[i] = (r - y) / 1.402;
  }
  return result;
}
