import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { MM_PER_INCH } from '../../measure/units';
import { luminance } from '../../raster/colour';
import { blur, gaussianReach } from '../../raster/gaussian';
import { copyRun, emptyRaster, type Raster, type Window } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { scratchMemory, strideOf, type ScratchMemory } from '../../raster/rows';
import { LEVEL } from '../../raster/samples';
import {
  cellsOfPixels,
  pixelsOfCells,
  reducedSize,
  reduceRows,
  wideBlurRows,
  wideGaussian,
  type WideGaussian,
} from '../../raster/wide-gaussian';
import type { Step } from '../step';
import { LIGHTNESS } from '../../raster/form';

/** The largest radius in pixels of the result; it bounds the step's reach. */
export const RADIUS_LIMIT = 60;

export const UnsharpSettings = z.object({
  /** standard deviation of the blur, in `unit` */
  radius: z.number().min(0.01).max(RADIUS_LIMIT),
  /** px of the result, or mm on paper: then the effect looks alike at any ppi */
  unit: z.enum(['px', 'mm']),
  /** how much of the difference is added, in % */
  amount: z.number().min(0).max(500),
  /** differences below so many levels (0–255) stay as they are */
  threshold: z.number().min(0).max(64),
});
export type UnsharpSettings = z.infer<typeof UnsharpSettings>;

export const UnsharpNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  /** factor on the difference */
  amount: z.number().min(0),
  /** on the 0–1 scale */
  threshold: z.number().min(0),
});
export type UnsharpNumbers = z.infer<typeof UnsharpNumbers>;

/**
 * Unsharp mask on luminance: what a Gaussian blur takes away is added again, alike to R, G and B,
 * so that hues stay. Differences are reduced by the threshold rather than switched by it, so that
 * no rim shows where it is crossed.
 */
export const unsharp = {
  kind: 'unsharp',
  title: 'Unsharp mask',
  blurb: 'Edges crisper, on luminance.',
  rank: 200,
  phases: ['target'],
  settings: UnsharpSettings,
  numbers: UnsharpNumbers,
  defaults: { radius: 0.3, unit: 'mm', amount: 80, threshold: 2 },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: 'Radius' },
      most: { px: RADIUS_LIMIT, mm: 5 },
    },
    { form: 'slider', setting: 'amount', label: 'Amount', min: 0, max: 300, step: 1, unit: '%' },
    {
      ...{ form: 'slider', setting: 'threshold', label: 'Threshold' },
      ...{ min: 0, max: 32, step: 0.5, unit: 'levels' },
    },
  ],

  resolve(settings, { plan }) {
    if (settings.amount === 0) return null;
    const pixels =
      settings.unit === 'px' ? settings.radius : (settings.radius / MM_PER_INCH) * plan.ppiAfter;
    return {
      radius: Math.min(pixels, RADIUS_LIMIT),
      amount: settings.amount / 100,
      threshold: settings.threshold * LEVEL,
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, radius: Math.max(numbers.radius * scale, 0.001) }),

  size: (_, from) => from,

  cost: ({ radius }) => (wideGaussian(radius) ? 0.015 : 0.02 + 0.002 * gaussianReach(radius)),

  inputRegion: ({ radius }, region, { from }) =>
    wideGaussian(radius) ? region : grow(region, gaussianReach(radius), from),

  reduction: {
    form: LIGHTNESS,
    factor: ({ radius }) => wideGaussian(radius)?.factor ?? 0,
    size: ({ radius }, from) => reducedSize(from, wideGaussian(radius)!.factor),
    inputRegion: ({ radius }, region, { from }) =>
      pixelsOfCells(region, wideGaussian(radius)!.factor, from),
    neededBy: ({ radius }, region, { from }) => cellsOfPixels(region, wideGaussian(radius)!, from),
    apply: (input, { radius }, region, { from }) =>
      reducedLuminance(input, region, wideGaussian(radius)!.factor, from),
  },

  apply(input, numbers, region, { from }, { reduced }) {
    const wide = wideGaussian(numbers.radius);
    return wide
      ? widely(input, reduced!, numbers, wide, region, from)
      : closely(input, numbers, region, from);
  },

  summary: ({ radius, unit, amount, threshold }) =>
    amount === 0
      ? 'no sharpening'
      : `${formatNumber(radius)} ${unit} · ${formatNumber(amount)} % · ${formatNumber(threshold)}`,
} satisfies Step<'unsharp', UnsharpSettings, UnsharpNumbers>;

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

/** Sharpens a row that lies in scratch memory and puts it into the result. @param rows,luma,soft in bytes */
function sharpenRow(
  memory: ScratchMemory,
  rows: number,
  stride: number,
  luma: number,
  soft: number,
  { amount, threshold }: UnsharpNumbers,
  result: Raster,
  y: number,
): void {
  const { width } = result;
  const [r, g, b] = [rows, rows + 4 * stride, rows + 8 * stride] as const;
  memory.unsharpRow(r, g, b, luma, soft, amount, threshold, width);
  for (let c = 0; c < 3; c++) {
    const at = rows / 4 + c * stride;
    copyRun(memory.floats, at, result.planes[c]!, y * width, width);
  }
}

function widely(
  input: Window,
  reduced: Window,
  numbers: UnsharpNumbers,
  wide: WideGaussian,
  region: Region,
  size: Size,
): Raster {
  const result = begun(input, region);
  const stride = strideOf(region.width) + 4;
  wideBlurRows(reduced, region, size, wide, 4 * stride, (memory, soft, own, y) => {
    takeRow(input, memory, own / 4, stride, region.x, region.y + y, region.width);
    const luma = own + 12 * stride;
    memory.luminanceRow(luma, own, own + 4 * stride, own + 8 * stride, region.width);
    sharpenRow(memory, own, stride, luma, soft, numbers, result, y);
  });
  return result;
}

function closely(input: Window, numbers: UnsharpNumbers, region: Region, size: Size): Raster {
  const { region: covered } = input;
  const luma = luminance(input.raster);
  const soft = blur(luma, covered, region, size, numbers.radius);
  const result = begun(input, region);
  const stride = strideOf(region.width) + 4;
  const memory = scratchMemory(5 * stride * 4);
  for (let y = 0; y < region.height; y++) {
    takeRow(input, memory, 0, stride, region.x, region.y + y, region.width);
    const start = (region.y + y - covered.y) * covered.width + region.x - covered.x;
    copyRun(luma, start, memory.floats, 3 * stride, region.width);
    copyRun(soft, y * region.width, memory.floats, 4 * stride, region.width);
    sharpenRow(memory, 0, stride, 12 * stride, 16 * stride, numbers, result, y);
  }
  return result;
}
