import type { Raster } from '../raster/raster';

/**
 * A picture without what a network swings beyond the pixels that it was made from: held to the range of those about it.
 * @param pixel sides of the pixels that it was made from, in its own
 */
export function bounded(raster: Raster, pixel: number): Raster {
  const { width, height } = raster;
  if (pixel === 1) return held(raster, (value) => Math.min(1, Math.max(0, value)));
  const across = Math.ceil(width / pixel);
  const down = Math.ceil(height / pixel);
  const planes = raster.planes.map((plane) => {
    const means = meansOf(plane, width, height, pixel);
    const [least, most] = rangeOf(means, across, down);
    return plane.map((value, i) => {
      const at =
        Math.floor(Math.floor(i / width) / pixel) * across + Math.floor((i % width) / pixel);
      return Math.min(most[at]!, Math.max(least[at]!, value));
    });
  });
  return { ...raster, planes };
}

const held = (raster: Raster, hold: (value: number) => number): Raster => ({
  ...raster,
  planes: raster.planes.map((plane) => plane.map(hold)),
});

/** The pixels that a plane was made from: the means of its squares, 0–1. */
function meansOf(plane: Float32Array, width: number, height: number, pixel: number): Float32Array {
  const across = Math.ceil(width / pixel);
  const sums = new Float32Array(across * Math.ceil(height / pixel));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      sums[Math.floor(y / pixel) * across + Math.floor(x / pixel)]! += plane[i]!;
  return sums.map((sum) => Math.min(1, Math.max(0, sum / pixel / pixel)));
}

/** The least and the most of each pixel and the eight about it. */
function rangeOf(
  plane: Float32Array,
  width: number,
  height: number,
): [least: Float32Array, most: Float32Array] {
  const least = new Float32Array(plane.length).fill(Infinity);
  const most = new Float32Array(plane.length).fill(-Infinity);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const value = plane[v * width + u]!;
          if (value < least[i]!) least[i] = value;
          if (value > most[i]!) most[i] = value;
        }
  return [least, most];
}
