import type { Region, Size } from '../../raster/region';
import type { Plane } from '../transform/shifted';

/** How a colour-difference grid lies on the picture's: samples of `x` by `y` pixels from the grid's origin. */
export interface Sampling {
  x: number;
  y: number;
  gridX: number;
  gridY: number;
}

/** Colour samples along both axes of a picture. */
export const chromaSize = (size: Size, sampling: Sampling): Size => ({
  width: Math.ceil((size.width - sampling.gridX) / sampling.x),
  height: Math.ceil((size.height - sampling.gridY) / sampling.y),
});

/** The colour samples that bilinear reading needs for a region of the picture. */
export function chromaRegion(region: Region, size: Size, sampling: Sampling): Region {
  const coarse = chromaSize(size, sampling);
  const x = Math.max(0, Math.floor((region.x - sampling.gridX) / sampling.x) - 1);
  const y = Math.max(0, Math.floor((region.y - sampling.gridY) / sampling.y) - 1);
  const right = (region.x + region.width - 1 - sampling.gridX) / sampling.x;
  const bottom = (region.y + region.height - 1 - sampling.gridY) / sampling.y;
  return {
    x,
    y,
    width: Math.min(coarse.width, Math.floor(right) + 2) - x,
    height: Math.min(coarse.height, Math.floor(bottom) + 2) - y,
  };
}

/** The picture's pixels under a region of colour samples. */
export function pixelsUnder(coarse: Region, size: Size, sampling: Sampling): Region {
  const across = under(coarse.x, coarse.width, sampling.x, sampling.gridX, size.width);
  const down = under(coarse.y, coarse.height, sampling.y, sampling.gridY, size.height);
  return {
    x: across.from,
    y: down.from,
    width: across.to - across.from,
    height: down.to - down.from,
  };
}

/**
 * The pixels of an axis under a run of samples. A sample that lies wholly beyond the picture (the
 * grid of a turned file may begin outside it) stands over the rim.
 */
function under(
  sample: number,
  count: number,
  step: number,
  origin: number,
  size: number,
): { from: number; to: number } {
  const from = Math.min(Math.max(sample * step + origin, 0), size - 1);
  return { from, to: Math.max(from + 1, Math.min((sample + count) * step + origin, size)) };
}

/** Colour samples as the mean of the pixels that they stand for. */
export function toSamplesOf(
  values: Float32Array,
  covered: Region,
  coarse: Region,
  size: Size,
  sampling: Sampling,
): Plane {
  const result = new Float32Array(coarse.width * coarse.height);
  for (let v = 0; v < coarse.height; v++) {
    const rows = under(coarse.y + v, 1, sampling.y, sampling.gridY, size.height);
    for (let u = 0; u < coarse.width; u++) {
      const columns = under(coarse.x + u, 1, sampling.x, sampling.gridX, size.width);
      let sum = 0;
      for (let y = rows.from; y < rows.to; y++) {
        const line = (y - covered.y) * covered.width - covered.x;
        for (let x = columns.from; x < columns.to; x++) sum += values[line + x]!;
      }
      result[v * coarse.width + u] = sum / ((rows.to - rows.from) * (columns.to - columns.from));
    }
  }
  return { values: result, covered: coarse, size: chromaSize(size, sampling) };
}

/** Samples on either side that undoing a decoder's smoothing looks at. */
export const UNSMOOTH_REACH = 4;

/**
 * Decoders bring halved colour up by a triangle, so that the mean of a sample's two pixels is
 * 1/8 of the sample before, 6/8 of itself and 1/8 of the one after. This undoes it: the inverse of
 * that filter is sqrt(2) (2 sqrt(2) - 3)^|n|, here to the fourth neighbour.
 */
const POLE = 2 * Math.SQRT2 - 3;
const UNSMOOTH = [1, POLE, POLE * POLE, POLE * POLE * POLE, POLE * POLE * POLE * POLE].map(
  (power) => Math.SQRT2 * power,
);

/** Where a sample beyond a border is found: mirrored about the border itself. */
const mirrored = (at: number, count: number): number => {
  const inside = at < 0 ? -1 - at : at >= count ? 2 * count - 1 - at : at;
  return Math.min(Math.max(inside, 0), count - 1);
};

/**
 * The file's own colour samples over `wanted`, from the means of the pixels that they stand for.
 * @param means over `wanted` grown by UNSMOOTH_REACH as far as the samples go
 */
export function unsmoothed(means: Plane, wanted: Region, sampling: Sampling): Plane {
  const { size } = means;
  const { region: rows, values } = along(means, wanted, sampling.x === 2, 'x');
  const across = { values, covered: rows, size };
  const { region, values: both } = along(across, wanted, sampling.y === 2, 'y');
  return { values: both, covered: region, size };
}

/** One axis of `unsmoothed`; an axis that wasn't halved is only cut to what is wanted. */
function along(plane: Plane, wanted: Region, halved: boolean, axis: 'x' | 'y') {
  const { values, covered, size } = plane;
  const region = axis === 'x' ? { ...wanted, y: covered.y, height: covered.height } : wanted;
  const result = new Float32Array(region.width * region.height);
  const step = axis === 'x' ? 1 : covered.width;
  const count = axis === 'x' ? size.width : size.height;
  const origin = axis === 'x' ? covered.x : covered.y;
  for (let y = 0, i = 0; y < region.height; y++) {
    const line = (region.y + y - covered.y) * covered.width - covered.x;
    for (let x = 0; x < region.width; x++, i++) {
      const at = line + region.x + x;
      if (!halved) {
        result[i] = values[at]!;
        continue;
      }
      const here = axis === 'x' ? region.x + x : region.y + y;
      const first = at - (here - origin) * step;
      let sum = UNSMOOTH[0]! * values[at]!;
      for (let n = 1; n <= UNSMOOTH_REACH; n++) {
        const before = values[first + (mirrored(here - n, count) - origin) * step]!;
        const after = values[first + (mirrored(here + n, count) - origin) * step]!;
        sum += UNSMOOTH[n]! * (before + after);
      }
      result[i] = sum;
    }
  }
  return { region, values: result };
}

/** Where the pixels of a run lie between colour samples: the two neighbours and the share of the second. */
interface Between {
  low: Int32Array;
  high: Int32Array;
  share: Float64Array;
}

function between(
  start: number,
  length: number,
  origin: number,
  step: number,
  count: number,
  first: number,
): Between {
  const result = {
    low: new Int32Array(length),
    high: new Int32Array(length),
    share: new Float64Array(length),
  };
  for (let i = 0; i < length; i++) {
    const at = (start + i + 0.5 - origin) / step - 0.5;
    const low = Math.floor(at);
    result.low[i] = Math.min(Math.max(low, 0), count - 1) - first;
    result.high[i] = Math.min(Math.max(low + 1, 0), count - 1) - first;
    result.share[i] = at - low;
  }
  return result;
}

/** Reads colour samples at every pixel of a region, bilinearly between their centres. */
export function readBilinear(
  samples: Float32Array,
  coarse: Region,
  region: Region,
  size: Size,
  sampling: Sampling,
): Float32Array {
  const grid = chromaSize(size, sampling);
  const u = between(region.x, region.width, sampling.gridX, sampling.x, grid.width, coarse.x);
  const v = between(region.y, region.height, sampling.gridY, sampling.y, grid.height, coarse.y);
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    const lowLine = v.low[y]! * coarse.width;
    const highLine = v.high[y]! * coarse.width;
    const down = v.share[y]!;
    for (let x = 0; x < region.width; x++) {
      const left = u.low[x]!;
      const right = u.high[x]!;
      const across = u.share[x]!;
      const low = samples[lowLine + left]! * (1 - across) + samples[lowLine + right]! * across;
      const high = samples[highLine + left]! * (1 - across) + samples[highLine + right]! * across;
      result[y * region.width + x] = low * (1 - down) + high * down;
    }
  }
  return result;
}
