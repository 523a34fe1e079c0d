import { z } from 'zod';
import { QuantTable } from '../../inspect/jpeg';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { toYCbCr, type YCbCr } from '../../raster/colour';
import { cut, type Raster, type Window } from '../../raster/raster';
import { cleanLearned, learnedInput } from '../../learned/cleaner';
import { severityOf } from '../../learned/planes';
import {
  automatic,
  Engine,
  engineControl,
  LEARNED_CLEANER,
  ModelDigest,
  type Automatic,
} from '../automatic';
import { grow, union, type Region, type Size } from '../../raster/region';
import type { ResolveContext, Step } from '../step';
import {
  chromaRegion,
  chromaSize,
  pixelsUnder,
  readBilinear,
  toSamplesOf,
  unsmoothed,
  UNSMOOTH_REACH,
  type Sampling,
} from './chroma';
import type { Plane } from '../transform/shifted';
import { deblockColour, trustInLuma } from './colour';
import { cutLevels, deblock, deblockInput } from './deblock';

export const CompressionSettings = z.object({
  engine: Engine,
  /** how much of it is taken out of luminance, in %; automatic: by the file's quality */
  luma: automatic(0, 100),
  /** … and of colour */
  colour: automatic(0, 100),
});
export type CompressionSettings = z.infer<typeof CompressionSettings>;

const share = z.number().min(0).max(1);

/** What the file's compression was, and how much of it is taken out. */
export const CompressionNumbers = z.object({
  luma: QuantTable,
  chroma: QuantTable.nullable(),
  samplingX: z.int().min(1).max(4),
  samplingY: z.int().min(1).max(4),
  gridX: z.int().max(0),
  gridY: z.int().max(0),
  lumaShare: share.default(1),
  colourShare: share.default(1),
  model: ModelDigest.default(null),
});
export type CompressionNumbers = z.infer<typeof CompressionNumbers>;

/** From this quality on a file kept so much that less is taken for damage. */
const FINE = 96;

/** The quality that is assumed where a file carries no tables and shows no trace of them. */
const ASSUMED_QUALITY = 40;

/** Tables of a quality, of a file that was brought into another form since. */
const assumed = (quality: number) => ({
  luma: tableAtQuality(STANDARD_LUMA, quality),
  chroma: tableAtQuality(STANDARD_CHROMA, quality),
  samplingX: 2,
  samplingY: 2,
});

const samplingOf = (numbers: CompressionNumbers): Sampling => ({
  x: numbers.samplingX,
  y: numbers.samplingY,
  gridX: numbers.gridX,
  gridY: numbers.gridY,
});

/** The first block of a grid that starts at `offset`, 0–7, as the numbers hold it: -7 to 0. */
const begin = (offset = 0): number => (offset === 0 ? 0 : offset - 8);

/** Where a luminance block begins, -7 to 0, on a grid that may be given by larger colour blocks. */
const within8 = (grid: number): number => grid % 8;

/** In %, how much is taken out unless it is said. */
const usualShare = ({ jpeg }: Pick<ResolveContext, 'jpeg'>): number =>
  (jpeg?.quality ?? 0) >= FINE ? 60 : 100;

/** Takes the traces of JPEG compression away, in luminance and in both colour differences. */
export const compression: Step<'compression', CompressionSettings, CompressionNumbers> = {
  kind: 'compression',
  title: 'Compression',
  blurb: 'Blocks, ripples and colour blotches of JPEG.',
  rank: 10,
  restsOnGrid: true,
  phases: ['original'],
  settings: CompressionSettings,
  numbers: CompressionNumbers,
  defaults: { engine: 'learned', luma: 'auto', colour: 'auto' },
  controls: [
    engineControl('compression'),
    {
      form: 'slider',
      setting: 'luma',
      label: 'Luminance',
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
      automatic: usualShare,
    },
    {
      form: 'slider',
      setting: 'colour',
      label: 'Colour',
      min: 0,
      max: 100,
      step: 1,
      unit: '%',
      automatic: usualShare,
    },
  ],
  cost: ({ model }) => 0.85 + (model ? LEARNED_CLEANER : 0),

  resolve(settings, { jpeg, blocks, plan, framing, models }) {
    // Neither shapes nor pixels that stand for whole squares carry blocks of compression.
    if (plan.vector || framing.grid) return null;
    const usual = usualShare({ jpeg });
    const part = (chosen: Automatic) => (chosen === 'auto' ? usual : chosen) / 100;
    const lumaShare = part(settings.luma);
    const colourShare = part(settings.colour);
    if (lumaShare === 0 && colourShare === 0) return null;
    const model = settings.engine === 'learned' ? models.compression : null;
    const shares = { lumaShare, colourShare, model };
    if (!jpeg) {
      const tables = assumed(blocks?.quality ?? ASSUMED_QUALITY);
      return { ...tables, gridX: begin(blocks?.x), gridY: begin(blocks?.y), ...shares };
    }
    const { luma, chroma, samplingX, samplingY, gridX, gridY } = jpeg;
    return { luma, chroma, samplingX, samplingY, gridX, gridY, ...shares };
  },

  scaled: (numbers) => numbers,

  size: (_, from) => from,

  inputRegion: (numbers, region, { from }) =>
    classicalInput(numbers, numbers.model ? learnedInput(region, from) : region, from),

  async apply(input, numbers, region, { from }, beside) {
    const network = numbers.model && (await beside.network(numbers.model));
    const estimated = network ? learnedInput(region, from) : region;
    const estimate = { region: estimated, raster: classical(input, numbers, estimated, from) };
    if (!network) return mixed(input, estimate.raster, region, numbers);
    const { luma, chroma, samplingX, gridX, gridY } = numbers;
    const found = cleanLearned(network, input, estimate, region, from, {
      severity: { luma: severityOf(luma), colour: chroma ? severityOf(chroma) : 0 },
      halved: samplingX > 1,
      noise: 0,
      blocks: { x: within8(gridX), y: within8(gridY) },
    });
    return mixed(input, found, region, numbers);
  },

  summary: ({ luma, colour }, strength) => {
    if (strength === 0) return 'as it came';
    const mean = luma === 'auto' || colour === 'auto' ? null : Math.max(luma, colour);
    return mean === null ? `blocks ${strength}` : `blocks ${Math.round((mean * strength) / 100)}`;
  },
};

/** What the classical estimate of `region` looks at. */
const classicalInput = (numbers: CompressionNumbers, region: Region, size: Size): Region =>
  numbers.chroma ? chromaInput(region, size, samplingOf(numbers)) : deblockInput(region, size);

/** The classical estimate, whole: before any share of it is taken. */
function classical(input: Window, numbers: CompressionNumbers, region: Region, size: Size): Raster {
  const result = cut(input, region);
  const before = toYCbCr(input.raster);
  const y: Plane = {
    values: before.y.map((level) => level - 128),
    covered: input.region,
    size,
  };
  const { luma, chroma, gridX, gridY } = numbers;
  const cleaned = deblock(y, region, luma, within8(gridX), within8(gridY));
  const changeY = subtract(cleaned, y, region);
  const colour =
    chroma &&
    colourChange(before, input.region, cleaned, region, size, chroma, samplingOf(numbers));
  addChange(result, changeY, colour?.cb ?? null, colour?.cr ?? null);
  return result;
}

/** Adds a change of Y, Cb, Cr, in levels, to a picture. */
function addChange(
  raster: Raster,
  luma: Float32Array,
  cb: Float32Array | null,
  cr: Float32Array | null,
): void {
  const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
  for (let i = 0; i < red.length; i++) {
    const y = luma[i]!;
    const b = cb?.[i] ?? 0;
    const r = cr?.[i] ?? 0;
    red[i]! += (y + 1.402 * r) / 255;
    green[i]! += (y - 0.344136 * b - 0.714136 * r) / 255;
    blue[i]! += (y + 1.772 * b) / 255;
  }
}

/** The picture with as much of what was found as is wanted, of luminance and of colour. */
function mixed(
  input: Window,
  found: Raster,
  region: Region,
  { lumaShare, colourShare }: CompressionNumbers,
): Raster {
  if (lumaShare === 1 && colourShare === 1) return found;
  const result = cut(input, region);
  const before = toYCbCr(result);
  const after = toYCbCr(found);
  const change = (from: Float32Array, to: Float32Array, part: number) =>
    from.map((value, i) => part * (to[i]! - value));
  addChange(
    result,
    change(before.y, after.y, lumaShare),
    change(before.cb, after.cb, colourShare),
    change(before.cr, after.cr, colourShare),
  );
  return result;
}

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
function chromaInput(region: Region, size: Size, sampling: Sampling): Region {
  const needed = chromaRegion(region, size, sampling);
  const coarse = chromaSize(size, sampling);
  const around = grow(deblockInput(needed, coarse), UNSMOOTH_REACH, coarse);
  const colour = pixelsUnder(around, size, sampling);
  return union(colour, deblockInput(region, size));
}

/** How much of what fine luminance says of colour between its samples is believed. */
const BETWEEN = 0.85;

/**
 * How both colour differences change, in levels at every pixel. They are computed on the file's own
 * colour samples and the change is brought up to the picture's grid, together with what luminance
 * tells of colour between the samples.
 * @param cleaned luminance over `region`, cleaned
 */
function colourChange(
  before: YCbCr,
  covered: Region,
  cleaned: Float32Array,
  region: Region,
  size: Size,
  table: readonly number[],
  sampling: Sampling,
): { cb: Float32Array; cr: Float32Array } {
  const needed = chromaRegion(region, size, sampling);
  const coarse = chromaSize(size, sampling);
  const wanted = deblockInput(needed, coarse);
  const around = grow(wanted, UNSMOOTH_REACH, coarse);
  const luma = toSamplesOf(before.y, covered, wanted, size, sampling).values;
  const read = (samples: Float32Array) => readBilinear(samples, needed, region, size, sampling);
  const lumaSamples = cutLevels(luma, wanted, needed);
  const soft = read(lumaSamples);
  const between = BETWEEN * trustInLuma(table);
  const change = (values: Float32Array): Float32Array => {
    const means = toSamplesOf(values, covered, around, size, sampling);
    const samples = unsmoothed(means, wanted, sampling);
    const { samples: found, slope } = deblockColour(samples, luma, needed, table);
    const result = read(subtract(found, samples, needed));
    const slopes = read(slope);
    for (let i = 0; i < result.length; i++) {
      result[i]! += between * slopes[i]! * (cleaned[i]! + 128 - soft[i]!);
    }
    return result;
  };
  return { cb: change(before.cb), cr: change(before.cr) };
}
