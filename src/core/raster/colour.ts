import { LIGHTNESS } from './form';
import { copyRun, emptyRaster, rowStart, type Raster, type Window } from './raster';
import type { Region } from './region';
import { scratchMemory, strideOf } from './rows';

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

/** The same of a part of a window, as the one plane of a raster. */
export function luminanceOver({ region: covered, raster }: Window, region: Region): Raster {
  const { width, height } = region;
  const result = emptyRaster(width, height, LIGHTNESS);
  const line = strideOf(width);
  const memory = scratchMemory(16 * line);
  for (let y = 0; y < height; y++) {
    const start = rowStart(covered, region, y);
    for (let c = 0; c < 3; c++) {
      copyRun(raster.planes[c]!, start, memory.floats, (c + 1) * line, width);
    }
    memory.luminanceRow(0, 4 * line, 8 * line, 12 * line, width);
    copyRun(memory.floats, 0, result.planes[0]!, y * width, width);
  }
  return result;
}

/**
 * Colours whose luminance became another: R, G and B gain alike what it gained, so that hues stay; alpha stays.
 * @param changed that luminance, over at least `region`, as `colours` are
 */
export function recoloured(colours: Window, changed: Window, region: Region): Raster {
  const { width, height } = region;
  const result = emptyRaster(width, height, colours.raster.form);
  const line = strideOf(width);
  const memory = scratchMemory(16 * line);
  const { floats } = memory;
  const [luma] = changed.raster.planes as [Float32Array];
  for (let y = 0; y < height; y++) {
    const from = rowStart(colours.region, region, y);
    for (let c = 0; c < 3; c++) copyRun(colours.raster.planes[c]!, from, floats, c * line, width);
    copyRun(luma, rowStart(changed.region, region, y), floats, 3 * line, width);
    memory.recolourRow(0, 4 * line, 8 * line, 12 * line, width);
    for (let c = 0; c < 3; c++) copyRun(floats, c * line, result.planes[c]!, y * width, width);
    const alpha = result.planes[3];
    if (alpha) copyRun(colours.raster.planes[3]!, from, alpha, y * width, width);
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
