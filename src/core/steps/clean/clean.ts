import { z } from 'zod';
import { QuantTable } from '../../inspect/jpeg';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { toYCbCr } from '../../raster/colour';
import { cut } from '../../raster/raster';
import type { Region, Size } from '../../raster/region';
import type { Step } from '../step';
import {
  chromaRegion,
  chromaSize,
  pixelsUnder,
  readBilinear,
  toSamplesOf,
  type Sampling,
} from './chroma';
import { deblock, deblockPull, type Plane } from './deblock';

export const CleanSettings = z.object({});
export type CleanSettings = z.infer<typeof CleanSettings>;

/** What the file's compression was; the strength is blended outside the step. */
export const CleanNumbers = z.object({
  luma: QuantTable,
  chroma: QuantTable.nullable(),
  samplingX: z.int().min(1).max(4),
  samplingY: z.int().min(1).max(4),
  gridX: z.int().max(0),
  gridY: z.int().max(0),
});
export type CleanNumbers = z.infer<typeof CleanNumbers>;

/** The quality that is assumed where a file carries no tables of its own. */
const ASSUMED_QUALITY = 40;

const assumed: CleanNumbers = {
  luma: tableAtQuality(STANDARD_LUMA, ASSUMED_QUALITY),
  chroma: tableAtQuality(STANDARD_CHROMA, ASSUMED_QUALITY),
  samplingX: 2,
  samplingY: 2,
  gridX: 0,
  gridY: 0,
};

const samplingOf = (numbers: CleanNumbers): Sampling => ({
  x: numbers.samplingX,
  y: numbers.samplingY,
  gridX: numbers.gridX,
  gridY: numbers.gridY,
});

/** The first block of a grid that starts at `offset`, 0–7, as the numbers hold it: -7 to 0. */
const begin = (offset = 0): number => (offset === 0 ? 0 : offset - 8);

/** Where a luminance block begins, -7 to 0, on a grid that may be given by larger colour blocks. */
const within8 = (grid: number): number => grid % 8;

/** Takes the blocks of JPEG compression away, in luminance and in both colour differences. */
export const clean: Step<'clean', CleanSettings, CleanNumbers> = {
  kind: 'clean',
  title: 'Clean',
  phase: 'original',
  settings: CleanSettings,
  numbers: CleanNumbers,
  defaults: {},

  settle(_, { jpeg, blocks, plan, framing }) {
    // Neither shapes nor pixels that stand for whole squares carry blocks of compression.
    if (plan.vector || framing.grid) return null;
    if (!jpeg) return { ...assumed, gridX: begin(blocks?.x), gridY: begin(blocks?.y) };
    const { luma, chroma, samplingX, samplingY, gridX, gridY } = jpeg;
    return { luma, chroma, samplingX, samplingY, gridX, gridY };
  },

  scaled: (numbers) => numbers,

  size: (_, from) => from,

  pull(numbers, region, { from }): Region {
    return numbers.chroma
      ? chromaPull(region, from, samplingOf(numbers))
      : deblockPull(region, from);
  },

  apply(input, numbers, region, { from }) {
    const result = cut(input, region);
    const before = toYCbCr(input.raster);
    const y: Plane = {
      values: before.y.map((level) => level - 128),
      covered: input.region,
      size: from,
    };
    const cleaned = deblock(
      y,
      region,
      numbers.luma,
      within8(numbers.gridX),
      within8(numbers.gridY),
    );
    const changeY = subtract(cleaned, y, region);
    const changeCb = chromaChange(before.cb, input.region, region, from, numbers);
    const changeCr = chromaChange(before.cr, input.region, region, from, numbers);
    const [red, green, blue] = result.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < red.length; i++) {
      const luma = changeY[i]!;
      const cb = changeCb?.[i] ?? 0;
      const cr = changeCr?.[i] ?? 0;
      red[i]! += (luma + 1.402 * cr) / 255;
      green[i]! += (luma - 0.344136 * cb - 0.714136 * cr) / 255;
      blue[i]! += (luma + 1.772 * cb) / 255;
    }
    return result;
  },

  summary: (_, strength) => (strength === 0 ? 'as it came' : `blocks ${strength}`),
};

/** What was computed over `region`, less what the plane holds there. */
function subtract(computed: Float32Array, plane: Plane, region: Region): Float32Array {
  const { values, covered } = plane;
  const result = new Float32Array(computed.length);
  for (let y = 0, i = 0; y < region.height; y++) {
    const line = (region.y + y - covered.y) * covered.width + region.x - covered.x;
    for (let x = 0; x < region.width; x++, i++) result[i] = computed[i]! - values[line + x]!;
  }
  return result;
}

/** Picture pixels that the colour change over `region` depends on. */
function chromaPull(region: Region, size: Size, sampling: Sampling): Region {
  const needed = chromaRegion(region, size, sampling);
  const coarse = chromaSize(size, sampling);
  const colour = pixelsUnder(deblockPull(needed, coarse), size, sampling);
  const luma = deblockPull(region, size);
  const x = Math.min(colour.x, luma.x);
  const y = Math.min(colour.y, luma.y);
  return {
    x,
    y,
    width: Math.max(colour.x + colour.width, luma.x + luma.width) - x,
    height: Math.max(colour.y + colour.height, luma.y + luma.height) - y,
  };
}

/**
 * How a colour difference changes, in levels at every pixel. It is computed on the file's own
 * colour samples and only the change is brought up to the picture's grid, so that detail which
 * the samples don't hold stays.
 */
function chromaChange(
  values: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  numbers: CleanNumbers,
): Float32Array | null {
  if (!numbers.chroma) return null;
  const sampling = samplingOf(numbers);
  const needed = chromaRegion(region, size, sampling);
  const coarse = chromaSize(size, sampling);
  const samples = toSamplesOf(values, covered, deblockPull(needed, coarse), size, sampling);
  // The colour grid begins where the block grid does, so its own blocks begin at sample 0.
  const change = subtract(deblock(samples, needed, numbers.chroma, 0, 0), samples, needed);
  return readBilinear(change, needed, region, size, sampling);
}
