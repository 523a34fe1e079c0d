import { gaussian, gaussianReach, meanRows } from '../raster/gaussian';
import { LIGHTNESS } from '../raster/form';
import { copyRun, emptyRaster, rowStart, type Raster, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import { strideOf, type ScratchMemory } from '../raster/rows';
import {
  cellsOfPixels,
  pixelsOfCells,
  reducedSize,
  reduceRows,
  wideBlurRows,
  wideGaussian,
} from '../raster/wide-gaussian';
import type { Stage } from './step';

// Sharpening compares luminance with itself, blurred by a Gaussian: close by at the picture itself, farther away at its
// reduction.

/** What of a stage follows from its looking at luminance blurred by a Gaussian of a radius, in pixels. */
export const looksAtSoftLuminance = <Numbers extends object>(
  radiusOf: (numbers: Numbers) => number,
): Required<Pick<Stage<string, Numbers>, 'changes' | 'inputRegion' | 'reduction' | 'cost'>> => {
  const wideOf = (numbers: Numbers) => wideGaussian(radiusOf(numbers));
  return {
    changes: 'luminance',
    cost: (numbers) =>
      wideOf(numbers) ? 0.005 : 0.007 + 0.0007 * gaussianReach(radiusOf(numbers)),
    inputRegion: (numbers, region, { from }) =>
      wideOf(numbers) ? region : grow(region, gaussianReach(radiusOf(numbers)), from),
    reduction: {
      form: LIGHTNESS,
      factor: (numbers) => wideOf(numbers)?.factor ?? 0,
      size: (numbers, from) => reducedSize(from, wideOf(numbers)!.factor),
      inputRegion: (numbers, region, { from }) =>
        pixelsOfCells(region, wideOf(numbers)!.factor, from),
      neededBy: (numbers, region, { from }) => cellsOfPixels(region, wideOf(numbers)!, from),
      apply: (input, numbers, region, { from }) =>
        reducedLuminance(input, region, wideOf(numbers)!.factor, from),
    },
  };
};

/** Computes a row of luminance from its own and the blurred one; byte pointers. @param n its pixels */
export type AlterRow = (
  memory: ScratchMemory,
  row: { out: number; luma: number; soft: number },
  n: number,
) => void;

/**
 * Luminance whose rows are altered by what they are beside their blurred selves.
 * @param input over what `looksAtSoftLuminance` says; @param reduced its reduction, where that has one
 * @param radius standard deviation of the blur, in pixels
 */
export function alterRows(
  input: Window,
  reduced: Window | undefined,
  radius: number,
  region: Region,
  size: Size,
  alter: AlterRow,
): Raster {
  const { width, height } = region;
  const { region: covered } = input;
  const result = emptyRaster(width, height, LIGHTNESS);
  const [from] = input.raster.planes as [Float32Array];
  const [to] = result.planes as [Float32Array];
  const line = strideOf(width);
  const wide = wideGaussian(radius);
  if (wide) {
    wideBlurRows(reduced!, region, size, wide, 2 * line, (memory, soft, own, y) => {
      copyRun(from, rowStart(covered, region, y), memory.floats, own / 4, width);
      alter(memory, { out: own + 4 * line, luma: own, soft }, width);
      copyRun(memory.floats, own / 4 + line, to, y * width, width);
    });
  } else {
    const weights = gaussian(radius);
    meanRows(from, covered, region, size, weights, line, (memory, { plane, mean, own }, y) => {
      alter(memory, { out: own, luma: plane, soft: mean }, width);
      copyRun(memory.floats, own / 4, to, y * width, width);
    });
  }
  return result;
}

/** Luminance of a window, reduced. */
function reducedLuminance(input: Window, region: Region, factor: number, size: Size): Raster {
  const { region: covered, raster } = input;
  const [plane] = raster.planes as [Float32Array];
  return reduceRows(covered, region, factor, size, 0, ({ floats }, at, y) =>
    copyRun(plane, (y - covered.y) * covered.width, floats, at, covered.width),
  );
}
