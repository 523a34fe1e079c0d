import { luminance } from '../raster/colour';
import { LIGHTNESS } from '../raster/form';
import { blur, gaussianReach } from '../raster/gaussian';
import { copyRun, emptyRaster, type Raster, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import { scratchMemory, strideOf, type ScratchMemory } from '../raster/rows';
import {
  cellsOfPixels,
  pixelsOfCells,
  reducedSize,
  reduceRows,
  wideBlurRows,
  wideGaussian,
  type WideGaussian,
} from '../raster/wide-gaussian';
import type { Stage } from './step';

// Sharpening on luminance compares a picture with its own luminance, blurred by a Gaussian: close by at the picture
// itself, farther away at its reduction.

/** What of a stage follows from its looking at luminance blurred by a Gaussian of a radius, in pixels. */
export const looksAtSoftLuminance = <Numbers extends object>(
  radiusOf: (numbers: Numbers) => number,
): Required<Pick<Stage<string, Numbers>, 'inputRegion' | 'reduction' | 'cost'>> => {
  const wideOf = (numbers: Numbers) => wideGaussian(radiusOf(numbers));
  return {
    cost: (numbers) => (wideOf(numbers) ? 0.015 : 0.02 + 0.002 * gaussianReach(radiusOf(numbers))),
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

/** A row in scratch memory, as byte pointers: its colours, its luminance, and that blurred. */
export interface SoftRow {
  r: number;
  g: number;
  b: number;
  luma: number;
  soft: number;
}

/** Changes a row's colours in place. @param n its pixels */
export type AlterRow = (memory: ScratchMemory, row: SoftRow, n: number) => void;

/**
 * A picture whose rows are altered by what they are beside their blurred luminance; alpha is taken over as it is.
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
  const wide = wideGaussian(radius);
  return wide
    ? widely(input, reduced!, wide, region, size, alter)
    : closely(input, radius, region, size, alter);
}

/** Copies a row of R, G and B to scratch memory, a `stride` apart. @param at in floats */
function takeRow(
  { region: covered, raster }: Window,
  { floats }: ScratchMemory,
  at: number,
  stride: number,
  x: number,
  y: number,
  width: number,
): void {
  const start = (y - covered.y) * covered.width + x - covered.x;
  for (let c = 0; c < 3; c++) {
    copyRun(raster.planes[c]!, start, floats, at + c * stride, width);
  }
}

/** Luminance of a window, reduced. */
function reducedLuminance(input: Window, region: Region, factor: number, size: Size): Raster {
  const { region: covered } = input;
  const stride = strideOf(covered.width) + 4;
  return reduceRows(covered, region, factor, size, 3 * stride, (memory, at, y) => {
    const own = at + stride;
    takeRow(input, memory, own, stride, covered.x, y, covered.width);
    memory.luminanceRow(at * 4, own * 4, (own + stride) * 4, (own + 2 * stride) * 4, covered.width);
  });
}

/** A result of as many planes as the input, alpha taken over as it is. */
function begun(input: Window, region: Region): Raster {
  const result = emptyRaster(region.width, region.height, input.raster.form);
  const alpha = result.form.alpha ? result.planes.at(-1) : undefined;
  if (alpha) {
    const { region: covered, raster } = input;
    for (let y = 0; y < region.height; y++) {
      const start = (region.y + y - covered.y) * covered.width + region.x - covered.x;
      alpha.set(raster.planes.at(-1)!.subarray(start, start + region.width), y * region.width);
    }
  }
  return result;
}

/** Puts a row's colours into a result. @param at of its red, in floats */
function putRow({ floats }: ScratchMemory, at: number, stride: number, result: Raster, y: number) {
  const { width } = result;
  for (let c = 0; c < 3; c++) {
    copyRun(floats, at + c * stride, result.planes[c]!, y * width, width);
  }
}

function widely(
  input: Window,
  reduced: Window,
  wide: WideGaussian,
  region: Region,
  size: Size,
  alter: AlterRow,
): Raster {
  const result = begun(input, region);
  const stride = strideOf(region.width) + 4;
  wideBlurRows(reduced, region, size, wide, 4 * stride, (memory, soft, own, y) => {
    takeRow(input, memory, own / 4, stride, region.x, region.y + y, region.width);
    const row = rowAt(own, stride, soft);
    memory.luminanceRow(row.luma, row.r, row.g, row.b, region.width);
    alter(memory, row, region.width);
    putRow(memory, own / 4, stride, result, y);
  });
  return result;
}

function closely(
  input: Window,
  radius: number,
  region: Region,
  size: Size,
  alter: AlterRow,
): Raster {
  const { region: covered } = input;
  const luma = luminance(input.raster);
  const soft = blur(luma, covered, region, size, radius);
  const result = begun(input, region);
  const stride = strideOf(region.width) + 4;
  const memory = scratchMemory(5 * stride * 4);
  const row = rowAt(0, stride, 16 * stride);
  for (let y = 0; y < region.height; y++) {
    takeRow(input, memory, 0, stride, region.x, region.y + y, region.width);
    const start = (region.y + y - covered.y) * covered.width + region.x - covered.x;
    copyRun(luma, start, memory.floats, 3 * stride, region.width);
    copyRun(soft, y * region.width, memory.floats, 4 * stride, region.width);
    alter(memory, row, region.width);
    putRow(memory, 0, stride, result, y);
  }
  return result;
}

/** Where a row's colours and luminance lie, one a stride after the other. @param r,soft in bytes */
const rowAt = (r: number, stride: number, soft: number): SoftRow => ({
  r,
  g: r + 4 * stride,
  b: r + 8 * stride,
  luma: r + 12 * stride,
  soft,
});
