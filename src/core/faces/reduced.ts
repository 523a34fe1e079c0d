import type { Size } from '../raster/region';
import type { Source } from '../raster/source';

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
export async function reducedBy(source: Source, factor: number): Promise<Planes> {
  const width = Math.floor(source.size.width / factor);
  const height = Math.floor(source.size.height / factor);
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  const across = width * factor;
  const step = Math.max(factor, Math.floor(ROWS / factor) * factor);
  for (let top = 0; top < height * factor; top += step) {
    const rows = Math.min(step, height * factor - top);
    const strip = await source.read({ x: 0, y: top, width: across, height: rows });
    planes.forEach((plane, channel) => {
      const from = strip.planes[channel]!;
      for (let y = 0, at = 0; y < rows; y++) {
        const row = Math.floor((top + y) / factor) * width;
        for (let x = 0; x < width; x++) {
          let sum = 0;
          for (let k = 0; k < factor; k++) sum += from[at++]!;
          plane[row + x]! += sum;
        }
      }
    });
  }
  const share = 1 / (factor * factor);
  if (factor > 1)
    for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i]! *= share;
  return { width, height, planes };
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
