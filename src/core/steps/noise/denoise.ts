import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { averageOverShifts } from '../transform/shifted';

/** Pixels around a pixel that its estimate looks at. */
const DENOISE_REACH = 14;

/** Coefficients within so many standard deviations are taken for noise. */
const CERTAINTY = 2.6;

/**
 * An orthonormal basis of colour, rows: grey, blue against red, green against both. White noise in
 * R, G and B is white in it too, and what channels share gathers in the first.
 */
const BASIS = [
  [Math.sqrt(1 / 3), Math.sqrt(1 / 3), Math.sqrt(1 / 3)],
  [Math.sqrt(1 / 2), 0, -Math.sqrt(1 / 2)],
  [Math.sqrt(1 / 6), -2 * Math.sqrt(1 / 6), Math.sqrt(1 / 6)],
] as const;

/** Standard deviations of noise in levels, in brightness and in colour. */
export interface Sigmas {
  grey: number;
  colour: number;
}

/** What must be read so that `denoise` can answer for `region`. */
export const denoiseInput = (region: Region, size: Size): Region =>
  grow(region, DENOISE_REACH, size);

/**
 * A picture without its noise, by thresholding overlapping 8x8 cosine transforms in an orthonormal
 * colour basis (Yu & Sapiro 2011, "DCT image denoising: a simple and effective image denoising
 * algorithm"), with weights by sparsity.
 * @param sigmas of the noise on the axes of that basis, levels; an axis with 0 is left as it is
 * @returns R, G, B over `region`
 */
export function denoise(input: Window, region: Region, size: Size, sigmas: Sigmas): Raster {
  const { region: covered, raster } = input;
  const result = emptyRaster(region.width, region.height, raster.form);
  const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
  const changes = BASIS.map((axis, i) => {
    const sigma = i === 0 ? sigmas.grey : sigmas.colour;
    if (sigma === 0) return null;
    const [r, g, b] = axis;
    const values = new Float32Array(red.length);
    for (let k = 0; k < values.length; k++) {
      values[k] = 255 * (r * red[k]! + g * green[k]! + b * blue[k]!);
    }
    const thresholds = new Array<number>(64).fill(CERTAINTY * sigma);
    thresholds[0] = 0;
    const found = averageOverShifts({ values, covered, size }, region, thresholds);
    for (let y = 0, k = 0; y < region.height; y++) {
      let at = (region.y + y - covered.y) * covered.width + region.x - covered.x;
      for (let x = 0; x < region.width; x++, k++, at++) found[k]! -= values[at]!;
    }
    return found;
  });
  result.planes.forEach((plane, channel) => {
    const from = raster.planes[channel]!;
    for (let y = 0, k = 0; y < region.height; y++) {
      let at = (region.y + y - covered.y) * covered.width + region.x - covered.x;
      for (let x = 0; x < region.width; x++, k++, at++) {
        let sum = 0;
        if (channel < 3) {
          for (let i = 0; i < 3; i++) sum += (changes[i]?.[k] ?? 0) * BASIS[i]![channel]!;
        }
        plane[k] = from[at]! + sum / 255;
      }
    }
  });
  return result;
}
