import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import { strideOf, weightRows, workroom } from '../../raster/rows';
import type { Filter } from './filter';

/**
 * Separable resampling: along the rows first, on the few source rows that are needed, then down
 * the columns, whole rows at a time, which is where nearly all the work of an enlargement lies.
 * Sums along the rows are kept in double precision, down the columns in single.
 * @param limit how far, 0–1, a value is drawn back between the four source pixels about it, along
 *   either axis: what a ringing kernel swings beyond them
 */
export function resample(
  input: Window,
  horizontal: Filter,
  vertical: Filter,
  region: Region,
  limit = 0,
): Raster {
  const { width, height } = region;
  const result = emptyRaster(width, height, input.raster.planes.length);
  const top = vertical.first[0]!;
  const count = vertical.first[height - 1]! + vertical.taps - top;
  const stride = strideOf(width);
  const room = workroom((count + 1) * stride * 4);
  const out = count * stride;
  const shifted = horizontal.first.map((tap) => tap - input.region.x);

  input.raster.planes.forEach((plane, channel) => {
    for (let i = 0; i < count; i++) {
      const start = (top + i - input.region.y) * input.region.width;
      const line = plane.subarray(start, start + input.region.width);
      alongRow(line, shifted, horizontal, room.floats, i * stride);
      if (limit > 0 && horizontal.near) {
        limitRow(line, shifted, horizontal.near, limit, room.floats, i * stride);
      }
    }
    const target = result.planes[channel]!;
    for (let y = 0; y < height; y++) {
      const weights = vertical.weights.subarray(y * vertical.taps, (y + 1) * vertical.taps);
      const first = vertical.first[y]! - top;
      weightRows(room, out * 4, first * stride * 4, stride, weights, width);
      if (limit > 0 && vertical.near) {
        const near = first + vertical.near.from[y]!;
        const last = vertical.near.count[y]! - 1;
        const row = (k: number) => (near + Math.min(k, last)) * stride * 4;
        room.limitRow(out * 4, row(0), row(1), row(2), row(3), limit, width);
      }
      target.set(room.floats.subarray(out, out + width), y * width);
    }
  });
  return result;
}

/** One row: every target pixel is a weighted sum of `taps` neighbours. */
function alongRow(
  line: Float32Array,
  first: Int32Array,
  filter: Filter,
  out: Float32Array,
  start: number,
): void {
  const { taps, weights } = filter;
  for (let i = 0, w = 0; i < first.length; i++) {
    const from = first[i]!;
    let sum = 0;
    for (let k = 0; k < taps; k++) sum += weights[w++]! * line[from + k]!;
    out[start + i] = sum;
  }
}

function limitRow(
  line: Float32Array,
  first: Int32Array,
  near: NonNullable<Filter['near']>,
  limit: number,
  out: Float32Array,
  start: number,
): void {
  for (let i = 0; i < first.length; i++) {
    const from = first[i]! + near.from[i]!;
    let low = line[from]!;
    let high = low;
    for (let k = 1; k < near.count[i]!; k++) {
      const value = line[from + k]!;
      if (value < low) low = value;
      else if (value > high) high = value;
    }
    const is = out[start + i]!;
    const within = is < low ? low : is > high ? high : is;
    out[start + i] = is + limit * (within - is);
  }
}
