// Held-out drawings enlarged eightfold, traced and by the network for drawings: how near each comes to the truth, and
// whether tracing is proposed where it is the better one. See docs/figures.md.
import sharp from 'sharp';
import { usualOutput } from '@/core/output/output';
import { drawing, FAMILIES } from '../training/enlarge/drawings';
import { tracedBack } from '../src/core/evidence/traced-back';
import { psnr } from '../src/core/inspect/compare';
import { inspectPixels } from '../src/core/inspect/inspect';
import { readJpegHeader } from '../src/core/inspect/jpeg';
import { networksFrom } from '../src/core/learned/networks';
import { ALL_MODELS } from '../src/core/learned/models';
import { severityOf } from '../src/core/learned/planes';
import { cut, type Raster } from '../src/core/raster/raster';
import { whole, type Region, type Size } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import type { Recipe } from '../src/core/recipe/recipe';
import { RECIPE_VERSION } from '../src/core/recipe/versions';
import { onLarger } from '../src/core/recipe/views';
import { render } from '../src/core/render/render';
import type { RecipeStep } from '../src/core/steps';
import { compression } from '../src/core/steps/compression/compression';
import { carryOut, chooseMethod, type Choosing } from '../src/core/steps/enlarge/choose';
import { random, testContext } from '../src/core/testing';
import { UPSCALING } from '../src/core/learned/enlarger';
import { modelBytes } from '../src/server/files/models';
import { figure, finished } from './report';

/** Sides of the small drawings, and how many times as large they are wanted. */
const SIDE = 192;
const FACTOR = 8;
const COUNT = 14;

const network = networksFrom(modelBytes);
const SMALL: Size = { width: SIDE, height: SIDE };
const LARGE: Size = { width: SIDE * FACTOR, height: SIDE * FACTOR };

const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
function rgb({ planes }: Raster): Float32Array {
  const all = new Float32Array(planes.length * planes[0]!.length);
  planes.forEach((plane, c) => all.set(plane, c * plane.length));
  return all;
}
const sourceOf = (raster: Raster) => ({
  size: { width: raster.width, height: raster.height },
  read: async (region: Region) => cut({ region: whole(raster), raster }, region),
});

let pictures = 0;
async function through(raster: Raster, steps: RecipeStep[]): Promise<Raster> {
  const source = sourceOf(raster);
  const recipe: Recipe = {
    ...{ version: RECIPE_VERSION, core: 'bench', alpha: 'none', colour: '#ffffff', steps },
    // Each picture is one of its own: what was traced of it is kept by its name.
    original: { digest: `bench ${++pictures}`, page: 1, ...source.size, drawn: null },
    target: { width: 1, height: 1, ppi: 100, bleed: 0 },
    tagOnly: false,
    output: usualOutput('tiff', 8),
  };
  const rendering = render(source, recipe, { network });
  return rendering.read(whole(rendering.size));
}

const resampled = (method: 'bicubic' | 'mitchell' | 'traced', from: Size, to: Size) => ({
  kind: 'resample' as const,
  strength: 100,
  numbers: {
    ...{ method, light: 'gamma' as const, limit: 0, step: 10, turn: 0 as const, straighten: 0 },
    ...{ source: whole(from), width: to.width, height: to.height },
  },
});

/** The steps of a method as it is carried out. */
function stepsOf(method: 'learned-art' | 'traced', by: Choosing, severity: Severity): RecipeStep[] {
  const { model, plain } = carryOut(method, by);
  const last = resampled(plain as 'mitchell' | 'traced', SMALL, LARGE);
  return [
    { kind: 'upscale', strength: 100, numbers: { model, ...severity } },
    { ...last, numbers: onLarger(last.numbers, UPSCALING) },
  ];
}

interface Severity {
  luma: number;
  colour: number;
}

/** As a file holds it, and cleaned. */
async function compressed(small: Raster, quality: number): Promise<[Raster, Raster, Severity]> {
  const jpeg = await sharp(toSamples(small, 8), { raw: { ...SMALL, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
  const raw = fromSamples(await sharp(jpeg).raw().toBuffer(), SIDE, SIDE, 3, 8);
  const facts = readJpegHeader(jpeg)!.facts!;
  const context = testContext(SMALL, { jpeg: facts, models: ALL_MODELS });
  const numbers = compression.resolve(compression.defaults, context)!;
  const cleaned = await through(raw, [{ kind: 'compression', strength: 100, numbers }]);
  const severity = { luma: severityOf(facts.luma), colour: severityOf(facts.chroma!) };
  return [raw, cleaned, severity];
}

async function measure(name: string, quality: number | null): Promise<void> {
  const next = random(20261129);
  const gains: number[] = [];
  const proposed: number[] = [];
  let slower = 0;
  for (let i = 0; i < COUNT; i++) {
    const bytes = await drawing(next, SIDE, FAMILIES['held-out'], FACTOR);
    const truth = fromSamples(bytes, LARGE.width, LARGE.height, 3, 8);
    const reduced = await through(truth, [resampled('bicubic', truth, SMALL)]);
    const small = fromSamples(toSamples(reduced, 8), SIDE, SIDE, 3, 8);
    const [file, cleaned, severity] =
      quality === null ? [small, small, { luma: 0, colour: 0 }] : await compressed(small, quality);
    const { findings } = await inspectPixels(sourceOf(file));
    const by: Choosing = {
      ...{ kind: findings.kind, factor: FACTOR, harsh: false, noise: 0, pixels: SIDE * SIDE },
      ...{ models: ALL_MODELS, tracedBack: await tracedBack(sourceOf(file), findings.kind) },
    };
    const begun = performance.now();
    const learned = await through(cleaned, stepsOf('learned-art', by, severity));
    const between = performance.now();
    const traced = await through(cleaned, stepsOf('traced', by, severity));
    slower += (performance.now() - between) / (between - begun) / COUNT;
    const gain = psnr(rgb(traced), rgb(truth)) - psnr(rgb(learned), rgb(truth));
    const isProposed = chooseMethod(by).method === 'traced';
    gains.push(gain);
    if (isProposed) proposed.push(gain);
    const { off = NaN, worst = NaN } = by.tracedBack ?? {};
    console.log(
      `  ${by.kind.padEnd(12)} ${gain.toFixed(2).padStart(6)} dB  traced back ${off.toFixed(2)}, ${worst.toFixed(0)}${isProposed ? '  proposed' : ''}`,
    );
  }
  console.log(
    `${name}: ${proposed.length} of ${COUNT} proposed; ${slower.toFixed(2)} times the network's time`,
  );
  figure(`${name}, over the network for drawings, mean of all`, mean(gains), 'dB', 4, 'least');
  figure(`${name}, where it is proposed, the least`, Math.min(...proposed), 'dB', 0, 'least');
}

await measure('traced, x8', null);
await measure('traced, x8, JPEG 85', 85);
finished();
