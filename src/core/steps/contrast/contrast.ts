import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LIGHTNESS } from '../../raster/form';
import { copyRun, emptyRaster, rowStart } from '../../raster/raster';
import { grow } from '../../raster/region';
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
} from './guided-base';
import { say } from '../../words/say';

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
  title: say`Local contrast`,
  blurb: say`Depth in middle tones, without halos along edges.`,
  rank: 160,
  phases: ['target'],
  settings: ContrastSettings,
  numbers: ContrastNumbers,
  defaults: { radius: 8, unit: 'mm', amount: 40, edges: 25 },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: say`Radius`, least: 0.5 },
      most: { px: RADIUS_LIMIT, mm: 30 },
    },
    { form: 'slider', setting: 'amount', label: say`Amount`, min: 0, max: 200, step: 1, unit: '%' },
    {
      ...{ form: 'slider', setting: 'edges', label: say`Edges from` },
      ...{ min: 4, max: 80, step: 1, unit: 'levels' },
    },
  ],
  changes: 'luminance',
  cost: ({ radius }) => (baseOf(radius) ? 0.01 : 0.01 + 0.003 * radius),

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
    const { width, height } = region;
    const result = emptyRaster(width, height, LIGHTNESS);
    const [out] = result.planes as [Float32Array];
    const { region: covered, raster } = input;
    const [luma] = raster.planes as [Float32Array];
    const line = strideOf(width);
    const strengthen = (
      memory: ScratchMemory,
      own: number,
      [slope, level]: readonly number[],
      y: number,
    ): void => {
      copyRun(luma, rowStart(covered, region, y), memory.floats, own / 4, width);
      memory.contrastRow(own, own, slope!, level!, amount, width);
      copyRun(memory.floats, own / 4, out, y * width, width);
    };
    if (base) {
      const { slope, level } = guidedBase(reduced!, region, from, base, least);
      const none = () => 1;
      splineRows([slope, level], region, base.factor, line, none, (memory, rows, own, y) =>
        strengthen(memory, own, rows, y),
      );
    } else {
      const { slope, level } = closeBase(luma, covered, region, from, radius, least);
      const memory = scratchMemory(12 * line);
      for (let y = 0; y < height; y++) {
        copyRun(slope, y * width, memory.floats, line, width);
        copyRun(level, y * width, memory.floats, 2 * line, width);
        strengthen(memory, 0, [4 * line, 8 * line], y);
      }
    }
    return result;
  },

  summary: ({ radius, unit, amount }) =>
    amount === 0
      ? say`no local contrast`
      : say`local contrast ${formatNumber(radius)} ${unit} · ${formatNumber(amount)} %`,
};
