import { z } from 'zod';
import { QuantTable } from '../../inspect/jpeg';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { toYCbCr, type YCbCr } from '../../raster/colour';
import { cut, type Raster, type Window } from '../../raster/raster';
import { grow, union, type Region, type Size } from '../../raster/region';
import type { ResolveContext } from '../step';
import type { Plane } from '../transform/shifted';
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
import type { Damage } from '../../learned/cleaner';
import { severityOf } from '../../learned/planes';
import { deblockColour, trustInLuma } from './colour';
import { cutLevels, deblock, deblockInput } from './deblock';

/** What a file's compression was: its tables, how its colour was sampled, and where its blocks begin. */
export const Tables = z.object({
  luma: QuantTable,
  chroma: QuantTable.nullable(),
  samplingX: z.int().min(1).max(4),
  samplingY: z.int().min(1).max(4),
  gridX: z.int().max(0),
  gridY: z.int().max(0),
});
export type Tables = z.infer<typeof Tables>;

/** The quality that is assumed where a file carries no tables and shows no trace of them. */
const ASSUMED_QUALITY = 40;

/** Tables of a quality, of a file that was brought into another form since. */
const assumed = (quality: number) => ({
  luma: tableAtQuality(STANDARD_LUMA, quality),
  chroma: tableAtQuality(STANDARD_CHROMA, quality),
  samplingX: 2,
  samplingY: 2,
});

const samplingOf = (numbers: Tables): Sampling => ({
  x: numbers.samplingX,
  y: numbers.samplingY,
  gridX: numbers.gridX,
  gridY: numbers.gridY,
});

/** The first block of a grid that starts at `offset`, 0–7, as the numbers hold it: -7 to 0. */
const begin = (offset = 0): number => (offset === 0 ? 0 : offset - 8);

/** Where a luminance block begins, -7 to 0, on a grid that may be given by larger colour blocks. */
const within8 = (grid: number): number => grid % 8;

/** Tables of the file, or those that its former quality had where that was coarser; assumed ones where nothing tells of it. */
export function tablesOf({ jpeg, blocks }: Pick<ResolveContext, 'jpeg' | 'blocks'>): Tables {
  if (!jpeg || blocks) {
    const tables = assumed(blocks?.quality ?? ASSUMED_QUALITY);
    // Who saves a file again mostly samples its colour as before.
    const colour = jpeg && {
      ...{ samplingX: jpeg.samplingX, samplingY: jpeg.samplingY },
      chroma: jpeg.chroma && tables.chroma,
    };
    return { ...tables, ...colour, gridX: begin(blocks?.x), gridY: begin(blocks?.y) };
  }
  const { luma, chroma, samplingX, samplingY, gridX, gridY } = jpeg;
  return { luma, chroma, samplingX, samplingY, gridX, gridY };
}

/** What a network is told of compression. */
export const compressedBy = ({
  luma,
  chroma,
  samplingX,
  gridX,
  gridY,
}: Tables): Pick<Damage, 'severity' | 'halved' | 'blocks'> => ({
  severity: { luma: severityOf(luma), colour: chroma ? severityOf(chroma) : 0 },
  halved: samplingX > 1,
  blocks: { x: within8(gridX), y: within8(gridY) },
});

/** What the classical estimate of `region` looks at. */
export const classicalInput = (tables: Tables, region: Region, size: Size): Region =>
  tables.chroma ? chromaInput(region, size, samplingOf(tables)) : deblockInput(region, size);

/**
 * The classical estimate of `region` before it was compressed.
 * @param input over at least `classicalInput(tables, region)`
 */
export function classical(input: Window, tables: Tables, region: Region, size: Size): Raster {
  const result = cut(input, region);
  const before = toYCbCr(input.raster);
  const y: Plane = {
    values: before.y.map((level) => level - 128),
    covered: input.region,
    size,
  };
  const { luma, chroma, gridX, gridY } = tables;
  const cleaned = deblock(y, region, luma, within8(gridX), within8(gridY));
  const changeY = subtract(cleaned, y, region);
  const colour =
    chroma && colourChange(before, input.region, cleaned, region, size, chroma, samplingOf(tables));
  addChange(result, changeY, colour?.cb ?? null, colour?.cr ?? null);
  return result;
}

/** Adds a change of Y, Cb, Cr, in levels, to a picture. */
export function addChange(
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
