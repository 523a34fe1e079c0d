import type { Region } from './region';

/**
 * Means over the square of `radius` samples to every side about each sample of `region`, of what of it is covered: along
 * rows, then along columns, the same sums however the picture is cut.
 * @param covered what `values` lie over: `region` grown by `radius` as far as the picture goes
 */
export function boxMean(
  values: Float32Array | Float64Array,
  covered: Region,
  region: Region,
  radius: number,
): Float64Array {
  const rows = new Float64Array(region.width * covered.height);
  const result = new Float64Array(region.width * region.height);
  for (let y = 0; y < covered.height; y++) {
    for (let x = 0; x < region.width; x++) {
      const from = Math.max(region.x + x - radius, covered.x) - covered.x;
      const to = Math.min(region.x + x + radius + 1, covered.x + covered.width) - covered.x;
      let sum = 0;
      for (let k = from; k < to; k++) sum += values[y * covered.width + k]!;
      rows[y * region.width + x] = sum / (to - from);
    }
  }
  for (let y = 0; y < region.height; y++) {
    const from = Math.max(region.y + y - radius, covered.y) - covered.y;
    const to = Math.min(region.y + y + radius + 1, covered.y + covered.height) - covered.y;
    for (let x = 0; x < region.width; x++) {
      let sum = 0;
      for (let k = from; k < to; k++) sum += rows[k * region.width + x]!;
      result[y * region.width + x] = sum / (to - from);
    }
  }
  return result;
}
