import { emptyRaster, type Raster } from '../raster/raster';
import { clip, type Region, type Size } from '../raster/region';
import type { Source } from '../raster/source';

/** For every place of an axis where it begins among the larger one's pixels, and how much of each counts. */
interface Share {
  from: number;
  weights: Float64Array;
}

function sharesOf(start: number, count: number, scale: number, side: number): Share[] {
  return Array.from({ length: count }, (_, i) => {
    const [begin, end] = [(start + i) * scale, Math.min(side, (start + i + 1) * scale)];
    const from = Math.min(side - 1, Math.floor(begin + 1e-9));
    const to = Math.min(side, Math.max(from + 1, Math.ceil(end - 1e-9)));
    const weights = Float64Array.from({ length: to - from }, (__, k) =>
      Math.max(0, Math.min(from + k + 1, end) - Math.max(from + k, begin)),
    );
    const total = weights.reduce((sum, weight) => sum + weight, 0) || 1;
    return { from, weights: weights.map((weight) => weight / total) };
  });
}

/**
 * A picture as it is on a coarser grid over the same paper: every pixel is the mean of what it covers, shares of pixels
 * included.
 * @param size at most as large as the picture's, along both axes
 * @throws RangeError where it is larger
 */
export function reducedSource(picture: Source, size: Size): Source {
  const from = picture.size;
  if (size.width > from.width || size.height > from.height) {
    throw new RangeError('reducedSource: the picture is smaller than that');
  }
  const [across, down] = [from.width / size.width, from.height / size.height];
  return {
    size,
    read: async (region: Region): Promise<Raster> => {
      const columns = sharesOf(region.x, region.width, across, from.width);
      const rows = sharesOf(region.y, region.height, down, from.height);
      const [left, top] = [columns[0]!.from, rows[0]!.from];
      const right = columns.at(-1)!.from + columns.at(-1)!.weights.length;
      const bottom = rows.at(-1)!.from + rows.at(-1)!.weights.length;
      const covered = clip({ x: left, y: top, width: right - left, height: bottom - top }, from);
      const raster = await picture.read(covered);
      const result = emptyRaster(region.width, region.height, raster.form);
      raster.planes.forEach((plane, c) =>
        reduce(plane, covered, { columns, rows }, result.planes[c]!),
      );
      return result;
    },
  };
}

/** Along rows, then down them. */
function reduce(
  plane: Float32Array,
  covered: Region,
  { columns, rows }: { columns: readonly Share[]; rows: readonly Share[] },
  out: Float32Array,
): void {
  const width = columns.length;
  const lines = new Float64Array(width * covered.height);
  for (let y = 0; y < covered.height; y++)
    for (let x = 0; x < width; x++) {
      const { from, weights } = columns[x]!;
      const at = y * covered.width + from - covered.x;
      let sum = 0;
      for (let k = 0; k < weights.length; k++) sum += weights[k]! * plane[at + k]!;
      lines[y * width + x] = sum;
    }
  rows.forEach(({ from, weights }, y) => {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = 0; k < weights.length; k++) {
        sum += weights[k]! * lines[(from - covered.y + k) * width + x]!;
      }
      out[y * width + x] = sum;
    }
  });
}
