import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import type { Filter } from './filter';

/**
 * Separable resampling: along the rows first, on the few source rows that are needed, then down
 * the columns, whole rows at a time, which is where nearly all the work of an enlargement lies.
 * Sums are kept in double precision, rows between the passes in single.
 */
export function resample(
  input: Window,
  horizontal: Filter,
  vertical: Filter,
  region: Region,
): Raster {
  const result = emptyRaster(region.width, region.height, input.raster.planes.length);
  const top = vertical.first[0]!;
  const bottom = vertical.first[region.height - 1]! + vertical.taps;
  const rows = Array.from({ length: bottom - top }, () => new Float32Array(region.width));
  const shifted = horizontal.first.map((tap) => tap - input.region.x);

  input.raster.planes.forEach((plane, channel) => {
    rows.forEach((row, i) => {
      const start = (top + i - input.region.y) * input.region.width;
      const line = plane.subarray(start, start + input.region.width);
      alongRow(line, shifted, horizontal, row);
    });
    const target = result.planes[channel]!;
    for (let y = 0; y < region.height; y++) {
      const from = vertical.first[y]! - top;
      downColumns(
        rows.slice(from, from + vertical.taps),
        vertical.weights.subarray(y * vertical.taps, (y + 1) * vertical.taps),
        target.subarray(y * region.width, (y + 1) * region.width),
      );
    }
  });
  return result;
}

/** One row: every target pixel is a weighted sum of `taps` neighbours. */
function alongRow(line: Float32Array, first: Int32Array, filter: Filter, out: Float32Array): void {
  const { taps, weights } = filter;
  for (let i = 0, w = 0; i < out.length; i++) {
    const from = first[i]!;
    let sum = 0;
    for (let k = 0; k < taps; k++) sum += weights[w++]! * line[from + k]!;
    out[i] = sum;
  }
}

/** One row of the result as a weighted sum of whole rows; the common tap counts are written out. */
function downColumns(rows: Float32Array[], w: Float64Array, out: Float32Array): void {
  const n = out.length;
  if (rows.length === 1) {
    out.set(rows[0]!);
  } else if (rows.length === 2) {
    const [a, b] = rows as [Float32Array, Float32Array];
    const wa = w[0]!;
    const wb = w[1]!;
    for (let x = 0; x < n; x++) out[x] = wa * a[x]! + wb * b[x]!;
  } else if (rows.length === 4) {
    const [a, b, c, d] = rows as [Float32Array, Float32Array, Float32Array, Float32Array];
    const wa = w[0]!;
    const wb = w[1]!;
    const wc = w[2]!;
    const wd = w[3]!;
    for (let x = 0; x < n; x++) out[x] = wa * a[x]! + wb * b[x]! + wc * c[x]! + wd * d[x]!;
  } else if (rows.length === 6) {
    const [a, b, c, d, e, f] = rows as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    const wa = w[0]!;
    const wb = w[1]!;
    const wc = w[2]!;
    const wd = w[3]!;
    const we = w[4]!;
    const wf = w[5]!;
    for (let x = 0; x < n; x++)
      out[x] =
        wa * a[x]! + wb * b[x]! + wc * c[x]! + wd * d[x]! + we * e[x]! + wf * f[x]!;
  } else {
    const sums = new Float64Array(n);
    rows.forEach((row, k) => {
      const weight = w[k]!;
      for (let x = 0; x < n; x++) sums[x]! += weight * row[x]!;
    });
    out.set(sums);
  }
}
