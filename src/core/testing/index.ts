import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import type { Recipe } from '../recipe/recipe';
import { resolveRecipe } from '../recipe/resolve';
import type { Treatment } from '../recipe/work';
import { FINDINGS_VERSION, type Findings } from '../inspect/findings';
import { UNFRAMED } from '../frame/framing';
import { History } from '../inspect/history';
import { FULL_TONES } from '../inspect/tones';
import { OPEN_PAPER, type Paper } from '../measure/paper';
import { ALL_MODELS } from '../learned/models';
import { planPrint } from '../measure/plan';
import { luminanceOver } from '../raster/colour';
import { cut, emptyRaster, type Raster, type Window } from '../raster/raster';
import { contains, type Region, type Size, whole } from '../raster/region';
import type { Beside, ResolveContext } from '../steps/step';
import type { Source } from '../raster/source';
import { RGB } from '../raster/form';

/** The luminance of a picture, over all of it. */
export function luminanceWindow(raster: Raster): Window {
  const region = whole(raster);
  return { region, raster: luminanceOver({ region, raster }, region) };
}

/** A small generator of repeatable numbers 0–1 for tests (mulberry32). */
export function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A made-up picture with ramps, hard edges, a fine pattern and noise. */
export function testPicture(size: Size, seed = 1): Raster {
  const next = random(seed);
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++) {
      const edge = (x >> 4) % 2 === (y >> 5) % 2 ? 0.25 : 0;
      const pattern = 0.1 * Math.cos(x * 1.7 + y * 0.9);
      for (let c = 0; c < 3; c++) {
        const ramp = (x + c * y) / (size.width + c * size.height);
        raster.planes[c]![y * size.width + x] =
          Math.round((0.6 * ramp + edge + pattern + 0.05 * next()) * 255) / 255;
      }
    }
  }
  return raster;
}

/** A source over a raster in memory that throws when it is read outside `allowed`. */
export function memorySource(raster: Raster, allowed: Region = whole(raster)): Source {
  return {
    size: { width: raster.width, height: raster.height },
    read: async (region) => {
      if (!contains(allowed, region)) {
        throw new RangeError(`read ${JSON.stringify(region)} beyond ${JSON.stringify(allowed)}`);
      }
      return cut({ region: whole(raster), raster }, region);
    },
  };
}

/** An ordered paper: whatever a test doesn't name is open. */
export const testPaper = (ordered: Partial<Paper> = {}): Paper => ({ ...OPEN_PAPER, ...ordered });

/** What stages are given besides their input in tests that use none of it. */
export const nothingBeside: Beside = {
  network: () => Promise.reject(new Error('no network here')),
};

/** What a step is resolved for in tests, but for what one names: a picture printed as it is. */
export function testContext(size: Size, named: Partial<ResolveContext> = {}): ResolveContext {
  const planned = planPrint({ rect: whole(size) }, testPaper(), 100);
  if (!planned.ok) throw new Error(planned.reason);
  return {
    ...{ original: size, jpeg: null, blocks: null, noise: { luma: 0, colour: 0 } },
    ...{ tones: FULL_TONES, grounds: [], models: ALL_MODELS, framing: UNFRAMED, phase: 'original' },
    ...{ distance: 2, material: null, blur: null, history: null },
    plan: planned.plan,
    trialSteps: () => null,
    ...named,
  };
}

/** Something with detail of every coarseness: R, G, B of every pixel. */
export function testScene(size: Size): Uint8Array {
  const next = random(5);
  const pixels = new Uint8Array(size.width * size.height * 3);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const wave = 60 * Math.sin(x / 9) * Math.cos(y / 13) + 30 * Math.sin((x * y) / 400);
      const edge = (x * 3 + y * 2) % 190 < 90 ? 35 : -20;
      for (let c = 0; c < 3; c++)
        pixels[(y * size.width + x) * 3 + c] = Math.min(
          255,
          Math.max(0, 120 + wave + edge - 8 * c + 10 * (next() - 0.5)),
        );
    }
  return pixels;
}

/** Findings of a plain 8-bit picture, but for what a test names. */
export const testFindings = (size: Size, found: Partial<Findings> = {}): Findings => ({
  version: FINDINGS_VERSION,
  page: 1,
  pages: 1,
  width: size.width,
  height: size.height,
  megapixels: (size.width * size.height) / 1e6,
  bytes: 4000,
  format: 'png',
  ppi: null,
  bitDepth: 8,
  channels: 3,
  alpha: false,
  profile: null,
  orientation: 1,
  jpeg: null,
  grounds: [],
  blocking: { ratio: 1, strength: 0, offsetX: 0, offsetY: 0 },
  formerQuality: null,
  compressedBefore: null,
  history: null,
  faces: [],
  enlarged: null,
  tracedBack: null,
  noise: { luma: 0, colour: 0 },
  detail: 1,
  blur: null,
  localBlur: null,
  rims: null,
  rimReach: null,
  clipped: { dark: 0, bright: 0 },
  tones: FULL_TONES,
  banding: 0,
  textured: 0,
  ringing: 0,
  fringes: 0,
  grid: null,
  kind: 'photograph',
  kindReason: '',
  damaged: 0,
  vector: null,
  notes: [],
  ...found,
});

/** What happened to a picture: nothing for certain, but for what a test names. */
export const testHistory = (
  of: Partial<Record<keyof History, readonly [value: number, off: number]>>,
): History =>
  History.parse(
    Object.fromEntries(
      History.keyof().options.map((name) => {
        const [value, off] = of[name] ?? [name === 'coloured' ? 0.5 : 0, 0.1];
        return [name, { value, off }];
      }),
    ),
  );

/** Planes without `margin` pixels at each border, as a network leaves them out. */
export function withoutMargin(
  planes: Float32Array,
  { width, height }: Size,
  margin: number,
): Float32Array {
  const inner = { width: width - 2 * margin, height: height - 2 * margin };
  const each = inner.width * inner.height;
  return Float32Array.from({ length: (planes.length / width / height) * each }, (_, i) => {
    const y = Math.floor((i % each) / inner.width) + margin;
    const x = (i % inner.width) + margin;
    return planes[(Math.floor(i / each) * height + y) * width + x]!;
  });
}

/** The settled recipe of a treatment, on a paper so many centimetres wide. */
export function testRecipe(found: Findings, treatment: Treatment, centimetres = 120): Recipe {
  const paper = testPaper({ width: { value: centimetres, unit: 'cm' } });
  const { work } = propose(found, { paper, distance: 2 });
  work.trials[0]!.treatment = treatment;
  const resolved = resolveRecipe(originalOf('a', found), work, work.trials[0]!);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}
