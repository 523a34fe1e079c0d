import { z } from 'zod';
import { formatNumber } from '../../measure/format';
import { LIGHTNESS } from '../../raster/form';
import { gaussianReach } from '../../raster/gaussian';
import { copyRun, emptyRaster, rowStart } from '../../raster/raster';
import { grow } from '../../raster/region';
import { scratchMemory, strideOf } from '../../raster/rows';
import { LEVEL } from '../../raster/samples';
import { LengthUnit, pixelsOf } from '../length';
import type { Step } from '../step';
import { edgeReach, findEdges } from './edge-mask';
import { say } from '../../words/say';

/** The largest radius and band in pixels of the result. */
const RADIUS_LIMIT = 12;
const BAND_LIMIT = 24;

export const EdgesSettings = z.object({
  /** standard deviation of the blur, and of the scale at which edges are looked for, in `unit` */
  radius: z.number().min(0.01).max(RADIUS_LIMIT),
  unit: LengthUnit,
  /** how much of the difference is added on edges, in % */
  amount: z.number().min(0).max(500),
  /** how far an edge must climb, in levels */
  hard: z.number().min(2).max(120),
  /** how far from an edge it reaches, in radii */
  band: z.number().min(0.5).max(6),
  /** how much what climbs slowly is left out, in % */
  ramps: z.number().min(0).max(100),
});
export type EdgesSettings = z.infer<typeof EdgesSettings>;

export const EdgesNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
  amount: z.number().min(0),
  /** on the 0–1 scale */
  hard: z.number().positive(),
  /** in pixels of the result */
  band: z.number().positive().max(BAND_LIMIT),
  /** 0–1 */
  ramps: z.number().min(0).max(1),
  /** whether the mask itself is the result, for looking at it */
  layer: z.boolean().default(false),
});
export type EdgesNumbers = z.infer<typeof EdgesNumbers>;

const looked = (numbers: EdgesNumbers): number =>
  Math.max(edgeReach(numbers), gaussianReach(numbers.radius));

/** Sharpens along edges alone, found at the print's own scale; what lies between stays as it is. */
export const edges: Step<'edges', EdgesSettings, EdgesNumbers> = {
  kind: 'edges',
  title: say`Edges only`,
  blurb: say`Crisper along edges, nothing between them.`,
  rank: 190,
  phases: ['target'],
  settings: EdgesSettings,
  numbers: EdgesNumbers,
  defaults: { radius: 0.3, unit: 'mm', amount: 100, hard: 24, band: 2, ramps: 80 },
  controls: [
    {
      ...{ form: 'length', setting: 'radius', unitSetting: 'unit', label: say`Radius` },
      most: { px: RADIUS_LIMIT, mm: 3 },
    },
    { form: 'slider', setting: 'amount', label: say`Amount`, min: 0, max: 300, step: 1, unit: '%' },
    {
      ...{ form: 'slider', setting: 'hard', label: say`Edges from` },
      ...{ min: 2, max: 120, step: 1, unit: 'levels' },
    },
    {
      ...{ form: 'slider', setting: 'band', label: say`Band` },
      ...{ min: 0.5, max: 6, step: 0.1, unit: 'radii' },
    },
    {
      ...{ form: 'slider', setting: 'ramps', label: say`Soft slopes left alone` },
      ...{ min: 0, max: 100, step: 1, unit: '%' },
    },
  ],
  changes: 'luminance',
  cost: (numbers) => 0.02 + 0.001 * looked(numbers),

  resolve({ radius, unit, amount, hard, band, ramps }, context) {
    if (amount === 0) return null;
    const pixels = Math.min(pixelsOf(radius, unit, context), RADIUS_LIMIT);
    return {
      radius: pixels,
      amount: amount / 100,
      hard: hard * LEVEL,
      band: Math.min(BAND_LIMIT, band * pixels),
      ramps: ramps / 100,
      layer: false,
    };
  },

  scaled: (numbers, scale) => ({
    ...numbers,
    radius: Math.max(numbers.radius * scale, 0.1),
    band: Math.max(numbers.band * scale, 0.1),
  }),
  size: (_, from) => from,
  inputRegion: (numbers, region, { from }) => grow(region, looked(numbers), from),
  neighbourhood: ({ radius }) => radius,
  layer: { title: say`where it works`, numbers: (numbers) => ({ ...numbers, layer: true }) },

  apply({ region: covered, raster }, numbers, region, { from }) {
    const [luma] = raster.planes as [Float32Array];
    const { mask, soft, softOver } = findEdges(luma, covered, region, from, numbers);
    const { width, height } = region;
    if (numbers.layer) return { width, height, form: LIGHTNESS, planes: [mask] };
    const result = emptyRaster(width, height, LIGHTNESS);
    const [out] = result.planes as [Float32Array];
    const line = strideOf(width);
    const memory = scratchMemory(12 * line);
    const { floats } = memory;
    for (let y = 0; y < height; y++) {
      copyRun(luma, rowStart(covered, region, y), floats, 0, width);
      copyRun(soft, rowStart(softOver, region, y), floats, line, width);
      copyRun(mask, y * width, floats, 2 * line, width);
      memory.maskedRow(0, 0, 4 * line, 8 * line, numbers.amount, width);
      copyRun(floats, 0, out, y * width, width);
    }
    return result;
  },

  summary: ({ radius, unit, amount, hard }) =>
    amount === 0
      ? say`no edges`
      : say`edges ${formatNumber(radius)} ${unit} · ${formatNumber(amount)} % · from ${formatNumber(hard)}`,
};
