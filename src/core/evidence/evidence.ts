import { z } from 'zod';
import { measureBlocking } from '../inspect/blocking';
import { ssim } from '../inspect/compare';
import { findEdges, type EdgePlace } from '../inspect/edge-width';
import { measureNoise } from '../inspect/noise';
import { patchOf, percentile, samplePicture, type Patch } from '../inspect/patches';
import { luminance } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { cells, whole, type Region, type Size } from '../raster/region';
import type { Source } from '../raster/source';
import { riseOf } from './profile';
import { reducedSource } from './reduced';

/** What shows of a picture itself. */
const Seen = {
  /** how far an 8x8 grid shows at the original's pixels: 0 none to 100 nothing but blocks; less is better */
  blocking: z.number(),
  /** noise of luminance in plain areas at the original's pixels, standard deviation in levels; less is better */
  noise: z.number(),
  /** pixels of the result that hard edges take from 10 to 90 %: less is crisper; null where there are none */
  edgeRisePx: z.number().nullable(),
};

/** What a picture shows, of whatever it is. */
export const SeenFigures = z.object(Seen);
export type SeenFigures = z.infer<typeof SeenFigures>;

/** The same of a result, and how true it stayed to its original. */
export const Evidence = z.object({
  ...Seen,
  /** how far hard edges go beyond what the original has about them, in % of their climb, on the mean; less is better */
  overshootPercent: z.number().nullable(),
  /** over R, G and B, once it is reduced to the original's grid, in dB, at most 99; more is truer */
  psnrReduced: z.number(),
  /** of luminance, likewise, at most 1; more is truer */
  ssimReduced: z.number(),
  /** the largest mean shift of R, G or B over 32 x 32 of the original's pixels, in levels; less is truer */
  colourShift: z.number(),
});
export type Evidence = z.infer<typeof Evidence>;

/** Side of what is compared at a time, and of the areas whose colour is looked at, in pixels of the original. */
const TILE = 256;
const AREA = 32;
/** So many dB are as good as the same picture. */
const SAME = 99;
/** Patches with the hardest edges, and edges of each, that are looked at. */
const PATCHES = 24;
const EDGES = 24;
/** How far an edge is looked at to either side, in pixels of the original. */
const REACH = 5;
/** An edge climbs so far at least, on the 0–1 scale. */
const CLIMB = 0.12;

/** A hard edge of the original, and what its luminance ranges over about it, on the 0–1 scale. */
interface Place extends EdgePlace {
  least: number;
  most: number;
}

/** Hard edges within a patch of the original. */
interface Crossing {
  patch: Patch;
  places: Place[];
}

/** The patches of an original in which its hardest edges lie. */
function crossingsOf(patches: readonly Patch[]): Crossing[] {
  return patches
    .map((patch): Crossing => {
      const plane = patch.luma.map((value) => value / 255);
      // Each edge has room on both sides.
      const places = findEdges(plane, patch, REACH + 1).slice(0, EDGES);
      return { patch, places: places.map((place) => ({ ...place, ...rangeAt(plane, place) })) };
    })
    .filter(({ places }) => places.length > 0)
    .sort((a, b) => climbs(b) - climbs(a))
    .slice(0, PATCHES);
}

/** The range of a line across an edge. */
function rangeAt(plane: Float32Array, { at, stride }: EdgePlace): { least: number; most: number } {
  const line = Array.from({ length: 2 * REACH + 2 }, (_, i) => plane[at + (i - REACH) * stride]!);
  return { least: Math.min(...line), most: Math.max(...line) };
}

const climbs = ({ places }: Crossing): number => places.reduce((sum, { climb }) => sum + climb, 0);

/** Rise and overshoot at the original's hardest edges, in another picture of the same paper. */
async function edgesIn(
  picture: Source,
  original: Size,
  crossings: readonly Crossing[],
): Promise<Pick<Evidence, 'edgeRisePx' | 'overshootPercent'>> {
  const [across, down] = [
    picture.size.width / original.width,
    picture.size.height / original.height,
  ];
  const widths: number[] = [];
  const beyond: number[] = [];
  for (const { patch, places } of crossings) {
    const [x, y] = [Math.floor(patch.x * across), Math.floor(patch.y * down)];
    const region: Region = {
      ...{ x, y },
      width: Math.min(picture.size.width, Math.ceil((patch.x + patch.width) * across)) - x,
      height: Math.min(picture.size.height, Math.ceil((patch.y + patch.height) * down)) - y,
    };
    const luma = luminance(await picture.read(region));
    for (const { at, stride, least, most } of places) {
      const level = stride === 1;
      const scale = level ? across : down;
      // Between this pixel and the next one lies the edge; along the other axis the line runs through its middle.
      const [u, v] = [patch.x + (at % patch.width), patch.y + Math.floor(at / patch.width)];
      const middle = (level ? u + 1 : v + 1) * scale - (level ? x : y);
      const off = Math.floor(level ? (v + 0.5) * down - y : (u + 0.5) * across - x);
      const reach = Math.ceil(REACH * scale);
      const line: number[] = [];
      for (let i = Math.round(middle) - reach; i < Math.round(middle) + reach; i++) {
        const [column, row] = level ? [i, off] : [off, i];
        if (column < 0 || row < 0 || column >= region.width || row >= region.height) continue;
        line.push(luma[row * region.width + column]!);
      }
      const rise = riseOf(line, CLIMB);
      if (rise) widths.push(rise.width);
      const over = Math.max(0, Math.max(...line) - most, least - Math.min(...line));
      beyond.push((100 * over) / (most - least));
    }
  }
  const mean = beyond.reduce((sum, one) => sum + one, 0) / beyond.length;
  return {
    edgeRisePx: widths.length > 0 ? percentile(widths, 0.5) : null,
    overshootPercent: beyond.length > 0 ? mean : null,
  };
}

type PlainFigures = Pick<SeenFigures, 'blocking' | 'noise'>;

/** What shows at the original's pixels. */
function plainFigures(patches: readonly Patch[], own: Compared['own']): PlainFigures {
  return {
    blocking: measureBlocking(patches, own ?? undefined).strength,
    noise: measureNoise(patches).luma,
  };
}

/** What is left at some places, told of the whole picture, by what was there and what was found in all of it. */
function inProportion(left: PlainFigures, here: PlainFigures, found: PlainFigures): PlainFigures {
  const ofAll = (name: keyof PlainFigures): number =>
    here[name] > 0 ? (left[name] * found[name]) / here[name] : left[name];
  return { blocking: Math.min(100, ofAll('blocking')), noise: ofAll('noise') };
}

/** An original, and how much of the pictures beside it is looked at. */
export interface Compared {
  original: Source;
  /** where a block of its compression begins, 0–7, where its file says so */
  own?: { x: number; y: number } | null | undefined;
  /** places alone, those with the hardest edges among them, rather than all of it */
  sampled?: boolean;
}

/** Places that are looked at of a sample: with hard edges, and spread evenly. */
const SAMPLED = 6;

/** The evidence of pictures beside the original that they were made from. */
export class EvidenceTable {
  private constructor(
    private readonly of: Compared,
    private readonly crossings: readonly Crossing[],
    private readonly patches: readonly Patch[],
    /** of all that findings are measured on, so that the figures are theirs */
    private readonly found: PlainFigures,
  ) {}

  static async begin(of: Compared): Promise<EvidenceTable> {
    const { patches } = await samplePicture(of.original);
    const crossings = crossingsOf(patches);
    const found = plainFigures(patches, of.own);
    if (!of.sampled) return new EvidenceTable(of, crossings, patches, found);
    const hardest = crossings.slice(0, SAMPLED);
    const even = patches.filter((_, i) => (i * SAMPLED) % patches.length < SAMPLED);
    const chosen = new Set([...hardest.map(({ patch }) => patch), ...even]);
    return new EvidenceTable(of, hardest, [...chosen], found);
  }

  /**
   * What the original itself shows.
   * @param scale pixels of the results to one of its own, so that edges are told in the same unit
   */
  async ofOriginal(scale: number): Promise<SeenFigures> {
    const { original } = this.of;
    const { edgeRisePx } = await edgesIn(original, original.size, this.crossings);
    return {
      ...this.found,
      edgeRisePx: edgeRisePx === null ? null : edgeRisePx * scale,
    };
  }

  /**
   * What a result shows, and how true it stayed.
   * @throws RangeError where it is smaller than the original, or has another shape
   */
  async ofResult(result: Source): Promise<Evidence> {
    const { original, own, sampled } = this.of;
    const { size } = original;
    if (!sameShape(size, result.size)) throw new RangeError('evidence: another shape');
    const reduced = reducedSource(result, size);
    const patches: Patch[] = [];
    for (const { x, y, width, height } of this.patches) {
      const region = { x, y, width, height };
      patches.push(patchOf(await reduced.read(region), region));
    }
    const pairs = sampled
      ? this.patches.map((was, i) => ({ was: was.raster, is: patches[i]!.raster }))
      : tilesOf(original, reduced);
    return {
      ...(await faithfulness(pairs)),
      ...inProportion(plainFigures(patches, own), plainFigures(this.patches, own), this.found),
      ...(await edgesIn(result, size, this.crossings)),
    };
  }
}

/** The same place of an original and of what is compared with it. */
interface Pair {
  was: Raster;
  is: Raster;
}

/** All of both, tile by tile. */
async function* tilesOf(original: Source, reduced: Source): AsyncGenerator<Pair> {
  for (const tile of cells(whole(original.size), TILE, original.size)) {
    yield { was: await original.read(tile), is: await reduced.read(tile) };
  }
}

/** Whether two pictures lie on the same paper: their shapes differ by no more than rounding and a hair. */
export function sameShape(one: Size, other: Size): boolean {
  const [across, down] = [other.width / one.width, other.height / one.height];
  const rounding = 1 / Math.min(one.width, one.height) + 1 / Math.min(other.width, other.height);
  return Math.abs(across / down - 1) <= Math.max(0.005, rounding);
}

async function faithfulness(
  pairs: Iterable<Pair> | AsyncIterable<Pair>,
): Promise<Pick<Evidence, 'psnrReduced' | 'ssimReduced' | 'colourShift'>> {
  let squares = 0;
  let samples = 0;
  let similar = 0;
  let seen = 0;
  let shift = 0;
  for await (const { was, is } of pairs) {
    for (let c = 0; c < 3; c++) {
      const [a, b] = [was.planes[c]!, is.planes[c]!];
      for (let i = 0; i < a.length; i++) squares += (bounded(a[i]!) - bounded(b[i]!)) ** 2;
      samples += a.length;
    }
    shift = Math.max(shift, shiftOf(was, is));
    const { width, height } = was;
    if (Math.min(width, height) < 8) continue;
    const area = width * height;
    similar += area * ssim(luminance(was), luminance(is), was);
    seen += area;
  }
  return {
    psnrReduced: Math.min(SAME, 10 * Math.log10(samples / squares)),
    ssimReduced: seen > 0 ? similar / seen : 1,
    colourShift: shift,
  };
}

const bounded = (value: number): number => Math.min(1, Math.max(0, value));

/** The largest mean shift of a colour over whole areas of two pictures, in levels; over all where they are smaller. */
function shiftOf(was: Raster, is: Raster): number {
  const { width, height } = was;
  let most = 0;
  for (const area of cells(whole(was), AREA, was)) {
    const small = area.width * area.height < (AREA * AREA) / 2;
    if (small && Math.max(width, height) > AREA) continue;
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let y = area.y; y < area.y + area.height; y++)
        for (let x = area.x; x < area.x + area.width; x++) {
          sum += is.planes[c]![y * width + x]! - was.planes[c]![y * width + x]!;
        }
      most = Math.max(most, (255 * Math.abs(sum)) / (area.width * area.height));
    }
  }
  return most;
}
