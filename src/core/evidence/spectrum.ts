import { hann, transformOf } from '../inspect/transform';
import { luminance } from '../raster/colour';
import type { Raster } from '../raster/raster';

/** Values of a line that is transformed. */
const LENGTH = 256;
const WINDOW = hann(LENGTH);
const WINDOWED = WINDOW.reduce((sum, one) => sum + one * one, 0);
const transform = transformOf(LENGTH);

/**
 * How strong detail of each scale is, along rows and columns alike: the root of the mean power of luminance in levels,
 * by cycles a pixel, from one cycle in 256 pixels to one in two (after Welch 1967, lines half over each other).
 * @returns 128 values, the i-th of (i + 1) / 256 cycles a pixel; null where the picture is too small for a line
 */
export function spectrumOf(raster: Raster): Float64Array | null {
  const { width, height } = raster;
  if (Math.max(width, height) < LENGTH) return null;
  const luma = luminance(raster);
  const power = new Float64Array(LENGTH / 2);
  let lines = 0;
  const add = (start: number, stride: number) => {
    addLine(luma, start, stride, power);
    lines++;
  };
  const begins = (side: number): number[] =>
    Array.from({ length: Math.floor((side - LENGTH) / (LENGTH / 2)) + 1 }, (_, i) =>
      Math.round((i * LENGTH) / 2),
    );
  if (width >= LENGTH) {
    for (let y = 0; y < height; y += EVERY) for (const x of begins(width)) add(y * width + x, 1);
  }
  if (height >= LENGTH) {
    for (let x = 0; x < width; x += EVERY)
      for (const y of begins(height)) add(y * width + x, width);
  }
  return power.map((sum) => 255 * Math.sqrt(sum / lines));
}

/** One line of so many is enough to know the mean of all. */
const EVERY = 4;

const re = new Float64Array(LENGTH);
const im = new Float64Array(LENGTH);

function addLine(luma: Float32Array, start: number, stride: number, power: Float64Array): void {
  let mean = 0;
  for (let i = 0; i < LENGTH; i++) mean += luma[start + i * stride]!;
  mean /= LENGTH;
  for (let i = 0; i < LENGTH; i++) {
    re[i] = (luma[start + i * stride]! - mean) * WINDOW[i]!;
    im[i] = 0;
  }
  transform(re, im);
  for (let k = 1; k <= LENGTH / 2; k++) {
    // Both halves of the spectrum are alike, but for its last line.
    const twice = k === LENGTH / 2 ? 1 : 2;
    power[k - 1]! += (twice * (re[k]! ** 2 + im[k]! ** 2)) / (LENGTH * WINDOWED);
  }
}
