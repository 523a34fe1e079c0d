import { z } from 'zod';
import { psnr, ssim } from '../inspect/compare';
import { edgeWidth, findEdges } from '../inspect/edge-width';
import { luminance } from '../raster/colour';
import { cut, type Raster, type Window } from '../raster/raster';
import { cells, whole, type Region, type Size } from '../raster/region';
import { fromSamples, toSamples } from '../raster/samples';
import type { RecipeStep } from '../steps';
import type { Carried } from '../steps/enlarge/choose';
import type { ResampleNumbers } from '../steps/resample/resample';
import type { Method } from '../steps/enlarge/methods';
import type { Recipe } from '../recipe/recipe';
import { render, type Rendering, type RenderTools } from '../render/render';
import { onLarger } from '../recipe/views';
import { UPSCALING } from '../learned/enlarger';
import { LIGHTNESS } from '../raster/form';

/** How a method fared on a picture that was reduced and enlarged back. */
export const TestRow = z.object({
  method: z.string(),
  /** over R, G, B, in dB */
  psnr: z.number(),
  ssim: z.number(),
  /** pixels that hard edges take */
  edgePixels: z.number(),
  milliseconds: z.number(),
});
export type TestRow = z.infer<typeof TestRow>;

/** A way that is tested: a method, as it is carried out. */
export interface TestedWay {
  method: Exclude<Method, 'auto'>;
  carried: Pick<Carried, 'model' | 'finest' | 'plain'>;
  settings: Pick<ResampleNumbers, 'light' | 'limit' | 'step'>;
}

/** Sides of the parts that are tested, at most, and how many. */
const PART = 512;
const PARTS = 3;
/** A test on fewer pixels, once reduced, says nothing. */
const LEAST_SMALL = 24;
/** More is not lost and found again by anything; less shows nothing. */
const FACTORS = { least: 1.5, most: 4 };
/** Side of the spot that is shown. */
const SPOT = 120;

/** By how much a picture is reduced for its test. */
export const testFactor = (factor: number): number =>
  Math.min(FACTORS.most, Math.max(FACTORS.least, factor));

export interface SelfTest {
  factor: number;
  /** pixels that edges of the picture itself take */
  edgePixels: number;
  /** the spot with most detail, as the picture itself has it */
  spot: Raster;
}

interface Part {
  truth: Raster;
  small: Raster;
  size: Size;
  luma: Float32Array;
  edges: ReturnType<typeof findEdges>;
}

/**
 * Reduces parts of a picture, enlarges them by each way and compares them with the picture itself.
 * @param picture the cleaned original on its own grid
 * @param onRow told of each way as soon as it is known, with the spot as it left it
 * @throws RangeError where the picture is too small to be reduced
 */
export async function selfTest(
  picture: Rendering,
  recipe: Recipe,
  ways: readonly TestedWay[],
  enlargement: number,
  tools: RenderTools,
  onRow: (row: TestRow, spot: Raster) => void | Promise<void>,
): Promise<SelfTest> {
  const factor = testFactor(enlargement);
  if (Math.min(picture.size.width, picture.size.height) / factor < LEAST_SMALL) {
    throw new RangeError('The picture is too small to be reduced and tested.');
  }
  const reach = Math.ceil(2 * factor);
  const parts = await Promise.all(
    (await detailedParts(picture)).map(async (region): Promise<Part> => {
      const size = {
        width: Math.floor(region.width / factor),
        height: Math.floor(region.height / factor),
      };
      const covered = {
        x: region.x,
        y: region.y,
        width: Math.round(size.width * factor),
        height: Math.round(size.height * factor),
      };
      const truth = await picture.read({ ...covered });
      const source = { x: 0, y: 0, width: size.width * factor, height: size.height * factor };
      const smaller = resampling('bicubic', source, size);
      const small = rounded(await through(truth, [smaller], recipe, {}));
      const luma = luminance(truth);
      return { truth, small, size: covered, luma, edges: findEdges(luma, covered, reach + 1) };
    }),
  );
  const spot = spotOf(parts[0]!.truth);
  for (const way of ways) {
    const begun = Date.now();
    const found: Raster[] = [];
    for (const { small, size } of parts) {
      found.push(await through(small, stepsFor(way, small, size), recipe, tools));
    }
    const milliseconds = Date.now() - begun;
    const mean = (of: (part: Part, result: Raster) => number) =>
      meanOf(parts.map((part, i) => of(part, found[i]!)));
    await onRow(
      {
        method: way.method,
        psnr: mean(({ truth }, result) => Math.min(SAME, psnr(colours(result), colours(truth)))),
        ssim: mean(({ luma, size }, result) => ssim(luminance(result), luma, size)),
        edgePixels: mean(({ edges }, result) => edgeWidth(luminance(result), edges, reach)),
        milliseconds,
      },
      cutSpot(found[0]!, spot),
    );
  }
  return {
    factor,
    edgePixels: meanOf(parts.map(({ luma, edges }) => edgeWidth(luma, edges, reach))),
    spot: cutSpot(parts[0]!.truth, spot),
  };
}

/** So many dB are as good as the same picture. */
const SAME = 99;

/** Mean of what is a number; none where nothing is. */
function meanOf(values: readonly number[]): number {
  const known = values.filter(Number.isFinite);
  return known.reduce((sum, value) => sum + value, 0) / known.length;
}

const colours = ({ planes }: Raster): Float32Array => {
  const count = planes[0]!.length;
  const all = new Float32Array(3 * count);
  planes.slice(0, 3).forEach((plane, c) => all.set(plane, c * count));
  return all;
};

/** A small picture as a file would hold it. */
const rounded = (raster: Raster): Raster =>
  fromSamples(toSamples(raster, 8), raster.width, raster.height, 3, 8);

const resampling = (
  method: ResampleNumbers['method'],
  source: Region,
  { width, height }: Size,
  settings: TestedWay['settings'] = { light: 'gamma', limit: 0, step: 10 },
): Extract<RecipeStep, { kind: 'resample' }> => ({
  kind: 'resample',
  strength: 100,
  numbers: { method, ...settings, source, turn: 0, straighten: 0, width, height },
});

function stepsFor(way: TestedWay, small: Raster, size: Size): RecipeStep[] {
  const { model, finest, plain } = way.carried;
  const step = resampling(plain, whole(small), size, way.settings);
  if (!model) return [step];
  const numbers = { model, ...(finest && { finest }), luma: 0, colour: 0 };
  return [
    { kind: 'upscale', strength: 100, numbers },
    { ...step, numbers: onLarger(step.numbers, UPSCALING) },
  ];
}

/** Parts that were rendered. */
let rendered = 0;

/** A picture in memory through some steps. */
async function through(
  raster: Raster,
  steps: RecipeStep[],
  recipe: Recipe,
  { network }: RenderTools,
): Promise<Raster> {
  const size = { width: raster.width, height: raster.height };
  const source = {
    size,
    read: async (region: Region) => cut({ region: whole(size), raster }, region),
  };
  // Not the file's own pixels, nor those of another part.
  const digest = `${recipe.original.digest} in part ${++rendered}`;
  const original = { ...recipe.original, ...size, digest, drawn: null };
  const rendering = render(source, { ...recipe, original, steps }, network ? { network } : {});
  return rendering.read(whole(rendering.size));
}

/** The parts of a picture that have most detail, the most detailed first; all of a small one. */
async function detailedParts(picture: Rendering): Promise<Region[]> {
  const { size } = picture;
  if (Math.max(size.width, size.height) <= 1.5 * PART) return [whole(size)];
  const rated: { region: Region; detail: number }[] = [];
  for (const region of cells(whole(size), PART, size)) {
    if (Math.min(region.width, region.height) < PART / 2) continue;
    const middle = {
      x: region.x + (region.width >> 2),
      y: region.y + (region.height >> 2),
      width: region.width >> 1,
      height: region.height >> 1,
    };
    rated.push({ region, detail: detailOf(luminance(await picture.read(middle)), middle) });
  }
  rated.sort((a, b) => b.detail - a.detail);
  return rated.length > 0 ? rated.slice(0, PARTS).map(({ region }) => region) : [whole(size)];
}

/** Mean slope of a plane. */
export function detailOf(luma: Float32Array, { width, height }: Size): number {
  let sum = 0;
  for (let i = 0; i + width < luma.length; i++) {
    sum += Math.abs(luma[i + 1]! - luma[i]!) + Math.abs(luma[i + width]! - luma[i]!);
  }
  return sum / (width * height);
}

/** Where most of a picture's detail lies. */
function spotOf(truth: Raster): Region {
  const side = Math.min(SPOT, truth.width, truth.height);
  const luma = luminance(truth);
  let best: Region = { x: 0, y: 0, width: side, height: side };
  let most = -1;
  for (let y = 0; y + side <= truth.height; y += side >> 1)
    for (let x = 0; x + side <= truth.width; x += side >> 1) {
      const region = { x, y, width: side, height: side };
      const window: Window = {
        region: whole(truth),
        raster: { ...truth, form: LIGHTNESS, planes: [luma] },
      };
      const detail = detailOf(cut(window, region).planes[0]!, region);
      if (detail > most) [most, best] = [detail, region];
    }
  return best;
}

const cutSpot = (raster: Raster, spot: Region): Raster =>
  cut({ region: whole(raster), raster }, spot);
