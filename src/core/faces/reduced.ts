import type { Size } from '../raster/region';
import { fullScale, samplesIn } from '../raster/samples';
import type { SampleSource, Source } from '../raster/source';

/** R, G, B of a picture on a grid of its own. */
export interface Planes extends Size {
  planes: Float32Array[];
}

/** Rows that are read at once. */
const ROWS = 64;

/**
 * A picture made smaller by a whole number, each pixel the mean of a square; what is left over at its right and lower borders
 * is left out.
 */
export async function reducedBy(source: Source | SampleSource, factor: number): Promise<Planes> {
  const width = Math.floor(source.size.width / factor);
  const height = Math.floor(source.size.height / factor);
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  const across = width * factor;
  const step = Math.max(factor, Math.floor(ROWS / factor) * factor);
  for (let top = 0; top < height * factor; top += step) {
    const rows = Math.min(step, height * factor - top);
    const region = { x: 0, y: top, width: across, height: rows };
    const add = (values: ArrayLike<number>, channels: number, own: Float32Array[]) =>
      addSums(values, channels, factor, { width, height: rows }, own);
    const into = planes.map((plane) => plane.subarray((top / factor) * width));
    if ('samples' in source) {
      // Whole numbers as they lie in the file: large pictures are not unpacked for this.
      add(samplesIn(await source.samples(region), source.depth), source.channels, into);
    } else {
      (await source.read(region)).planes
        .slice(0, 3)
        .forEach((plane, c) => add(plane, 1, [into[c]!]));
    }
  }
  const share = 1 / (factor * factor * ('samples' in source ? fullScale(source.depth) : 1));
  if (share < 1)
    for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i]! *= share;
  return { width, height, planes };
}

/**
 * Adds the sums of squares of `factor` by `factor` to planes.
 * @param values rows of interleaved channels, as many squares wide as `width`
 */
function addSums(
  values: ArrayLike<number>,
  channels: number,
  factor: number,
  { width, height }: Size,
  planes: readonly Float32Array[],
): void {
  const line = width * factor * channels;
  planes.forEach((plane, channel) => {
    for (let y = 0; y < height; y++) {
      const row = Math.floor(y / factor) * width;
      for (let x = 0, at = y * line + channel; x < width; x++) {
        let sum = 0;
        for (let k = 0; k < factor; k++, at += channels) sum += values[at]!;
        plane[row + x]! += sum;
      }
    }
  });
}

/** Half as large, each pixel the mean of a square of two by two. */
export function halvedPlanes({ width, height, planes }: Planes): Planes {
  const size = { width: width >> 1, height: height >> 1 };
  return {
    ...size,
    planes: planes.map((plane) => {
      const result = new Float32Array(size.width * size.height);
      for (let y = 0, i = 0; y < size.height; y++) {
        let at = 2 * y * width;
        for (let x = 0; x < size.width; x++, i++, at += 2) {
          result[i] =
            (plane[at]! + plane[at + 1]! + plane[at + width]! + plane[at + width + 1]!) / 4;
        }
      }
      return result;
    }),
  };
}

/** Twice as large, by straight lines between the middles of its pixels. */
export function doubledPlanes({ width, height, planes }: Planes): Planes {
  const size = { width: 2 * width, height: 2 * height };
  return {
    ...size,
    planes: planes.map((plane) => {
      const result = new Float32Array(size.width * size.height);
      const mixed = new Float32Array(width);
      for (let y = 0; y < size.height; y++) {
        const own = (y >> 1) * width;
        const other = Math.min(height - 1, Math.max(0, (y >> 1) + (y & 1 ? 1 : -1))) * width;
        for (let x = 0; x < width; x++) mixed[x] = (3 * plane[own + x]! + plane[other + x]!) / 4;
        doubleRow(mixed, result, y * size.width);
      }
      return result;
    }),
  };
}

function doubleRow(row: Float32Array, to: Float32Array, at: number): void {
  const last = row.length - 1;
  for (let x = 0; x <= last; x++) {
    const here = 3 * row[x]!;
    to[at++] = (here + row[x > 0 ? x - 1 : 0]!) / 4;
    to[at++] = (here + row[x < last ? x + 1 : last]!) / 4;
  }
}
