import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { luminance } from '../../raster/colour';
import { copyRun, cut, pixelsOver, type Raster, type Window } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { scratchMemory, strideOf, type ScratchMemory } from '../../raster/rows';
import { LEVEL } from '../../raster/samples';
import { pixelsOfCells, reducedSize, splineRows } from '../../raster/wide-gaussian';
import { LengthUnit, pixelsOf } from '../length';
import type { Step } from '../step';
import {
  baseOf,
  cellsForBase,
  closeBase,
  closeReach,
  guidedBase,
  MOMENTS,
  reducedMoments,
  type Base,
} from './guided-base';

/** The largest radius in pixels of the result, and the smallest: less is sharpening. */
const RADIUS_LIMIT = 1500;
const LEAST_RADIUS = 1;

export const ContrastSettings = z.object({
  /** standard deviation of what counts as near, in `unit` */
  radius: z.number().min(0.5).max(RADIUS_LIMIT),
  unit: LengthUnit,
  /** how much of what stands out is added, in % */
  amount: z.number().min(0).max(200),
  /** what stands out by more levels is an edge, and left alone */
  edges: z.number().min(4).max(80),
});
export type ContrastSettings = z.infer<typeof ContrastSettings>;

export const ContrastNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().min(LEAST_RADIUS).max(RADIUS_LIMIT),
  amount: z.number().min(0),
  /** on the 0–1 scale */
  edges: z.number().positive(),
});
export type ContrastNumbers = z.infer<typeof ContrastNumbers>;

const held = (radius: number): number => Math.min(RADIUS_LIMIT, Math.max(LEAST_RADIUS, radius));

/**
 * Local contrast: what stands out from a base that follows strong edges is strengthened, most in middle tones. The
 * base keeps those edges, so that no halo lies along them.
 */
export const contrast: Step<'contrast', ContrastSettings, ContrastNumbers> = {
  kind: 'contrast',
  title: 'Local contrast',
  blurb: 'Depth in middle tones, without halos along edges.',
  rank: 160,
  phases: ['target'],
  settings: ContrastSettings,
  numbers: ContrastNumbers,
  defaults: { radius: 8, unit: 'mm', amount: 40, edges: 25 },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: 'Radius', least: 0.5 },
      most: { px: RADIUS_LIMIT, mm: 30 },
    },
    { form: 'slider', setting: 'amount', label: 'Amount', min: 0, max: 200, step: 1, unit: '%' },
    {
      ...{ form: 'slider', setting: 'edges', label: 'Edges from' },
      ...{ min: 4, max: 80, step: 1, unit: 'levels' },
    },
  ],
  cost: ({ radius }) => (baseOf(radius) ? 0.03 : 0.03 + 0.01 * radius),

  resolve({ radius, unit, amount, edges }, context) {
    if (amount === 0) return null;
    return {
      radius: held(pixelsOf(radius, unit, context)),
      amount: amount / 100,
      edges: edges * LEVEL,
    };
  },

  scaled: (numbers, scale) => ({ ...numbers, radius: held(numbers.radius * scale) }),
  size: (_, from) => from,
  inputRegion: ({ radius }, region, { from }) =>
    baseOf(radius) ? region : grow(region, closeReach(radius), from),
  neighbourhood: ({ radius }) => radius,

  reduction: {
    form: MOMENTS,
    factor: ({ radius }) => baseOf(radius)?.factor ?? 0,
    size: ({ radius }, from) => reducedSize(from, baseOf(radius)!.factor),
    inputRegion: ({ radius }, region, { from }) =>
      pixelsOfCells(region, baseOf(radius)!.factor, from),
    neededBy: ({ radius }, region, { from }) => cellsForBase(region, baseOf(radius)!, from),
    apply: (input, { radius }, region, { from }) =>
      reducedMoments(input, region, baseOf(radius)!.factor, from),
  },

  apply(input, { radius, amount, edges }, region, { from }, { reduced }) {
    const least = edges * edges;
    const base = baseOf(radius);
    return base
      ? widely(input, guidedBase(reduced!, region, from, base, least), base, amount, region)
      : closely(input, radius, least, amount, region, from);
  },

  summary: ({ radius, unit, amount }) =>
    amount === 0
      ? 'no local contrast'
      : `local contrast ${formatNumber(radius)} ${unit} · ${formatNumber(amount)} %`,
};

/** A base as it lies over a picture or its cells. */
type Planes = ReturnType<typeof closeBase>;

function widely(
  input: Window,
  { slope, level }: Planes,
  { factor }: Base,
  amount: number,
  region: Region,
): Raster {
  const result = cut(input, region);
  const stride = strideOf(region.width) + 4;
  splineRows(
    [slope, level],
    region,
    factor,
    4 * stride,
    () => 1,
    (memory, rows, own, y) =>
      strengthen(memory, result, y, own, stride, rows[0]!, rows[1]!, amount),
  );
  return result;
}

function closely(
  input: Window,
  radius: number,
  least: number,
  amount: number,
  region: Region,
  size: Size,
): Raster {
  const covered = grow(region, closeReach(radius), size);
  const luma = luminance(pixelsOver(input, covered));
  const { slope, level } = closeBase(luma, covered, region, size, radius, least);
  const result = cut(input, region);
  const { width } = region;
  const stride = strideOf(width) + 4;
  const memory = scratchMemory(6 * stride * 4);
  for (let y = 0; y < region.height; y++) {
    copyRun(slope, y * width, memory.floats, 4 * stride, width);
    copyRun(level, y * width, memory.floats, 5 * stride, width);
    strengthen(memory, result, y, 0, stride, 16 * stride, 20 * stride, amount);
  }
  return result;
}

/** Strengthens a row of a result, in place. @param own,slope,level byte pointers of four rows to work in, and of the base */
function strengthen(
  memory: ScratchMemory,
  result: Raster,
  y: number,
  own: number,
  stride: number,
  slope: number,
  level: number,
  amount: number,
): void {
  const { width } = result;
  const row = (k: number) => own + 4 * k * stride;
  for (let c = 0; c < 3; c++) {
    copyRun(result.planes[c]!, y * width, memory.floats, row(c) / 4, width);
  }
  memory.luminanceRow(row(3), row(0), row(1), row(2), width);
  memory.contrastRow(row(0), row(1), row(2), row(3), slope, level, amount, width);
  for (let c = 0; c < 3; c++) {
    copyRun(memory.floats, row(c) / 4, result.planes[c]!, y * width, width);
  }
}
