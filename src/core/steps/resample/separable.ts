import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import { strideOf, weightRows, scratchMemory, type ScratchMemory } from '../../raster/rows';
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
  const result = emptyRaster(width, height, input.raster.form);
  eachRow(input, horizontal, vertical, region, limit, ({ floats }, at, channel, y) =>
    result.planes[channel]!.set(floats.subarray(at, at + width), y * width),
  );
  return result;
}

/** The same, but added to what stands under `region` of another window, in place. */
export function resampleOnto(
  onto: Window,
  input: Window,
  horizontal: Filter,
  vertical: Filter,
  region: Region,
): void {
  const { width } = region;
  const across = onto.region.width;
  const first = (region.y - onto.region.y) * across + region.x - onto.region.x;
  eachRow(input, horizontal, vertical, region, 0, (memory, at, channel, y, spare) => {
    const start = first + y * across;
    const line = onto.raster.planes[channel]!.subarray(start, start + width);
    memory.floats.set(line, spare);
    memory.add1(spare * 4, at * 4, 1, width);
    line.set(memory.floats.subarray(spare, spare + width));
  });
}

/**
 * Rows of the result, as they come.
 * @param put told where a row lies in the scratchMemory's floats, and where there is room for another
 */
function eachRow(
  input: Window,
  horizontal: Filter,
  vertical: Filter,
  { width, height }: Region,
  limit: number,
  put: (memory: ScratchMemory, at: number, channel: number, y: number, spare: number) => void,
): void {
  const top = vertical.first[0]!;
  const count = vertical.first[height - 1]! + vertical.taps - top;
  const stride = strideOf(width);
  const along = alongFor(horizontal);
  const left = horizontal.first[0]! - input.region.x;
  const reach = horizontal.first[width - 1]! + horizontal.taps - horizontal.first[0]!;
  // Rows of the source, a row of the result and a spare one, a line of the source; then the filter.
  const out = count * stride;
  const spare = out + stride;
  const line = spare + stride;
  const weights = line + Math.ceil((reach + 4) / 4) * 4;
  const first = weights + 2 * along.weights.length;
  const memory = scratchMemory((first + along.first.length) * 4);
  memory.doubles.set(along.weights, weights / 2);
  memory.ints.set(along.first, first);

  input.raster.planes.forEach((plane, channel) => {
    for (let i = 0; i < count; i++) {
      const start = (top + i - input.region.y) * input.region.width + left;
      const source = plane.subarray(start, start + reach);
      memory.floats.set(source, line);
      memory.weighAlong(i * stride * 4, line * 4, first * 4, weights * 4, horizontal.taps, width);
      if (limit > 0 && horizontal.near) {
        limitRow(source, along.first, horizontal.near, limit, memory.floats, i * stride, width);
      }
    }
    for (let y = 0; y < height; y++) {
      const weighed = vertical.weights.subarray(y * vertical.taps, (y + 1) * vertical.taps);
      const begin = vertical.first[y]! - top;
      weightRows(memory, out * 4, begin * stride * 4, stride, weighed, width);
      if (limit > 0 && vertical.near) {
        const near = begin + vertical.near.from[y]!;
        const last = vertical.near.count[y]! - 1;
        const row = (k: number) => (near + Math.min(k, last)) * stride * 4;
        memory.limitRow(out * 4, row(0), row(1), row(2), row(3), limit, width);
      }
      put(memory, out, channel, y, spare);
    }
  });
}

/** A filter as the kernel takes it: first taps from the very first one, weights of four together. */
interface Along {
  first: Int32Array;
  weights: Float64Array;
}

const laidOut = new WeakMap<Filter, Along>();

function alongFor(filter: Filter): Along {
  const known = laidOut.get(filter);
  if (known) return known;
  const { first, weights, taps } = filter;
  const count = strideOf(first.length);
  // Places that fill the last four up look where the first one does, with weights of zero.
  const along: Along = {
    first: new Int32Array(count),
    weights: new Float64Array(count * taps),
  };
  for (let i = 0; i < first.length; i++) {
    along.first[i] = first[i]! - first[0]!;
    for (let k = 0; k < taps; k++) {
      along.weights[((i >> 2) * taps + k) * 4 + (i & 3)] = weights[i * taps + k]!;
    }
  }
  laidOut.set(filter, along);
  return along;
}

function limitRow(
  line: Float32Array,
  first: Int32Array,
  near: NonNullable<Filter['near']>,
  limit: number,
  out: Float32Array,
  start: number,
  width: number,
): void {
  for (let i = 0; i < width; i++) {
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
