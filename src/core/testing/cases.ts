import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import type { Raster } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import type { Network } from '../learned/network';
import { luminanceWindow, memorySource, testPicture, withoutMargin } from '.';
import type { Window } from '../raster/raster';
import { stages, type RecipeStep } from '../steps';
import type { Plain } from '../steps/enlarge/methods';
import type { Beside, Stage } from '../steps/step';

/** Size of the picture that the cases are applied to. */
export const size: Size = { width: 83, height: 61 };
const picture = testPicture(size);
/** What there was before some cleaning. */
const before = testPicture(size, 5);
const MODEL = 'a'.repeat(64);

const jpegTables = {
  luma: tableAtQuality(STANDARD_LUMA, 30),
  chroma: tableAtQuality(STANDARD_CHROMA, 30),
};
const tables = { ...jpegTables, lumaShare: 1, colourShare: 1, model: null };
const told = {
  ...{ blur: 0.4, noise: 0.3, grain: 0, sharpening: 0.5, resized: 0.2, enlarged: 0.3 },
};
const unsure = {
  ...{ blur: 0.1, noise: 0.1, grain: 0.2, sharpening: 0.3, resized: 0.4, enlarged: 0.1 },
};
const enlargement = (
  method: Plain | 'traced',
  factor: number,
  turn: 0 | 90 | 180 | 270 = 0,
  straighten = 0,
  more: { light?: 'linear'; limit?: number } = {},
) => ({
  kind: 'resample' as const,
  strength: 100,
  numbers: {
    ...{ method, light: 'gamma' as const, limit: 0, step: 40, ...more },
    // Within the turned picture too, whose sides have changed places.
    source: { x: 3.3, y: 2.25, width: 51.4, height: 53.1 },
    turn,
    straighten,
    width: Math.round(51.4 * factor),
    height: Math.round(53.1 * factor),
  },
});

const spot = (
  how: 'heal' | 'clone',
  points: [number, number][],
  radius: number,
  offset: [number, number],
) => ({ id: String(radius), how, points, radius, offset, softness: 0.4 });

/** At least one case a step, and each of its ways to compute. A new step adds its own here. */
export const cases: Record<string, RecipeStep> = {
  'compression 4:2:0': {
    kind: 'compression',
    strength: 100,
    numbers: { ...tables, samplingX: 2, samplingY: 2, gridX: 0, gridY: 0 },
  },
  'compression, turned grid': {
    kind: 'compression',
    strength: 100,
    numbers: { ...tables, samplingX: 2, samplingY: 1, gridX: -13, gridY: -3 },
  },
  'compression, grey': {
    kind: 'compression',
    strength: 100,
    numbers: { ...tables, chroma: null, samplingX: 1, samplingY: 1, gridX: 0, gridY: 0 },
  },
  'compression, learned': {
    kind: 'compression',
    strength: 100,
    numbers: { ...tables, samplingX: 2, samplingY: 2, gridX: -4, gridY: 0, model: MODEL },
  },
  'compression, luminance more than colour': {
    kind: 'compression',
    strength: 100,
    numbers: {
      ...{ ...tables, samplingX: 1, samplingY: 1, gridX: 0, gridY: 0 },
      ...{ lumaShare: 0.9, colourShare: 0.2 },
    },
  },
  restore: {
    kind: 'restore',
    strength: 100,
    numbers: {
      ...{ told, unsure, model: MODEL },
      tables: { ...jpegTables, samplingX: 2, samplingY: 2, gridX: -4, gridY: 0 },
    },
  },
  'restore, never compressed': {
    kind: 'restore',
    strength: 100,
    numbers: { told, unsure, tables: null, model: MODEL },
  },
  'restore without a model': {
    kind: 'restore',
    strength: 100,
    numbers: {
      ...{ told, unsure, model: null },
      tables: { ...jpegTables, samplingX: 1, samplingY: 1, gridX: 0, gridY: -2 },
    },
  },
  noise: { kind: 'noise', strength: 100, numbers: { grey: 9, colour: 4, model: null } },
  'noise, learned': { kind: 'noise', strength: 100, numbers: { grey: 9, colour: 0, model: MODEL } },
  ground: {
    kind: 'ground',
    strength: 100,
    numbers: {
      grounds: [
        [0.5, 0.5, 0.5],
        [0.9, 0.8, 0.7],
      ],
      tolerances: [0.2, 0.1],
    },
  },
  specks: { kind: 'specks', strength: 100, numbers: { threshold: 0.04 } },
  fringes: { kind: 'fringes', strength: 100, numbers: { radius: 3, threshold: 6 } },
  smooth: { kind: 'smooth', strength: 100, numbers: { radius: 1.3, threshold: 9 } },
  'smooth, tiny radius': { kind: 'smooth', strength: 100, numbers: { radius: 0.01, threshold: 9 } },
  banding: { kind: 'banding', strength: 100, numbers: { radius: 7, threshold: 4 } },
  tones: {
    kind: 'tones',
    strength: 100,
    numbers: { gain: [1.2, 1.1, 1.3], offset: [-0.1, 0, -0.2], contrast: 1.4, saturation: 0.7 },
  },
  'texture and grain': {
    kind: 'texture',
    strength: 100,
    numbers: { returned: 0.6, finer: 1.1, grain: 0.03, grainSize: 1.6 },
  },
  retouch: {
    kind: 'retouch',
    strength: 100,
    numbers: {
      spots: [
        ...[spot('heal', [[20, 20]], 6, [18, 3]), spot('clone', [[24.5, 18]], 4.5, [-12, 20])],
        spot(
          'heal',
          [
            [2, 3],
            [70, 40],
          ],
          2.5,
          [7, -9],
        ),
        spot('heal', [[81, 59]], 9, [400, 400]),
      ],
    },
  },
  'enlarge nearest': enlargement('nearest', 2.7),
  'enlarge bilinear': enlargement('bilinear', 1.9),
  'enlarge bicubic': enlargement('bicubic', 3.1),
  'enlarge lanczos3': enlargement('lanczos3', 2.35),
  'reduce lanczos3': enlargement('lanczos3', 0.43),
  'enlarge, turned right': enlargement('bicubic', 2.1, 90),
  'enlarge, upside down': enlargement('lanczos3', 1.6, 180),
  'enlarge, turned left': enlargement('nearest', 1.6, 270),
  'enlarge, straightened': enlargement('lanczos3', 1.8, 0, 3.7),
  'enlarge, straightened and turned': enlargement('bilinear', 2.2, 270, -12),
  'enlarge, traced': enlargement('traced', 3.3),
  'enlarge, traced, turned and straightened': enlargement('traced', 2.4, 90, 4),
  'reduce, traced': enlargement('traced', 0.6, 270),
  'nearest, straightened': enlargement('nearest', 2.2, 0, 20),
  'reduce, straightened': enlargement('bicubic', 0.4, 0, 31),
  'enlarge lanczos2': enlargement('lanczos2', 5.1),
  'enlarge mitchell, in linear light': enlargement('mitchell', 2.6, 0, 0, { light: 'linear' }),
  'enlarge, ringing limited': enlargement('lanczos3', 3.3, 0, 0, { limit: 0.7 }),
  'enlarge, ringing limited, straightened': enlargement('lanczos3', 3.3, 0, 5, { limit: 0.7 }),
  'enlarge, round': enlargement('lanczos3-jinc', 2.3, 0, 0, { limit: 1 }),
  'reduce, round, straightened': enlargement('lanczos3-jinc', 0.6, 90, 11),
  'enlarge, stepped': enlargement('stepped', 3.3),
  'enlarge, stepped, straightened': enlargement('stepped', 2.4, 180, 4),
  upscale: {
    kind: 'upscale',
    strength: 100,
    numbers: { model: MODEL, luma: 0.3, colour: 0.6 },
  },
  'upscale, finest': {
    kind: 'upscale',
    strength: 100,
    numbers: { model: MODEL, finest: true, luma: 0.3, colour: 0.6 },
  },
  'upscale without a model': {
    kind: 'upscale',
    strength: 100,
    numbers: { model: null, luma: 0, colour: 0 },
  },
  regrid: { kind: 'regrid', strength: 100, numbers: { width: 19, height: 23 } },
  'mount with margins': {
    kind: 'mount',
    strength: 100,
    numbers: {
      ...{ width: 120, height: 70, x: 20, y: 3 },
      ...{ left: 'colour', right: 'colour', top: 'mirror', bottom: 'clamp', colour: '#8040ff' },
    },
  },
  'mount, mirrored over and over': {
    kind: 'mount',
    strength: 100,
    numbers: {
      ...{ width: 300, height: 75, x: 180, y: 5 },
      ...{ left: 'mirror', right: 'clamp', top: 'clamp', bottom: 'mirror', colour: '#ffffff' },
    },
  },
  unsharp: {
    kind: 'unsharp',
    strength: 100,
    numbers: { radius: 1.7, amount: 1.2, threshold: 0.01, light: 1, dark: 1 },
  },
  'unsharp, one side more': {
    kind: 'unsharp',
    strength: 100,
    numbers: { radius: 1.7, amount: 1.2, threshold: 0.01, light: 0.3, dark: 0.9 },
  },
  'high-pass, overlay': {
    kind: 'highpass',
    strength: 100,
    numbers: { radius: 2.3, blend: 'overlay', layer: false },
  },
  'high-pass, soft light, wide': {
    kind: 'highpass',
    strength: 100,
    numbers: { radius: 9, blend: 'soft light', layer: false },
  },
  'high-pass, its layer': {
    kind: 'highpass',
    strength: 100,
    numbers: { radius: 2.3, blend: 'linear light', layer: true },
  },
  'crisper textures, close': { kind: 'crisp', strength: 100, numbers: { finer: 1 } },
  'crisper textures, wide': { kind: 'crisp', strength: 100, numbers: { finer: 3.4 } },
  'local contrast, near': {
    kind: 'contrast',
    strength: 100,
    numbers: { radius: 5, amount: 0.8, edges: 0.1 },
  },
  'local contrast, far': {
    kind: 'contrast',
    strength: 100,
    numbers: { radius: 30, amount: 1.1, edges: 0.06 },
  },
  'edges only': {
    kind: 'edges',
    strength: 100,
    numbers: { radius: 1.6, amount: 1, hard: 0.1, band: 3.2, ramps: 0.8, layer: false },
  },
  'edges only, where': {
    kind: 'edges',
    strength: 100,
    numbers: { radius: 0.4, amount: 1, hard: 0.1, band: 0.5, ramps: 0, layer: true },
  },
  'for paper': {
    kind: 'paper',
    strength: 100,
    numbers: { radius: 1.1, amount: 1.2, threshold: 0.004 },
  },
  deblur: {
    kind: 'deblur',
    strength: 100,
    numbers: { spread: { form: 'gaussian', radius: 1.2 }, noise: 0.004, calm: 0.05 },
  },
  'deblur, out of focus': {
    kind: 'deblur',
    strength: 100,
    numbers: { spread: { form: 'disc', radius: 2.3 }, noise: 0.01, calm: 0.08 },
  },
  'deblur, moved': {
    kind: 'deblur',
    strength: 100,
    numbers: { spread: { form: 'motion', length: 6, angle: 30 }, noise: 0.004, calm: 0.1 },
  },
  'grain, some of it coarser': {
    kind: 'grain',
    strength: 100,
    numbers: { size: 5, amount: 0.03, coarse: 0.4, shadows: 0.5, lights: 0.3 },
  },
  'luminance alone': { kind: 'greys', strength: 100, numbers: {} },
  'ink spread and eye': { kind: 'spread', strength: 100, numbers: { radius: 2.4 } },
  'unsharp, tiny radius': {
    kind: 'unsharp',
    strength: 100,
    numbers: { radius: 0.01, amount: 3, threshold: 0, light: 1, dark: 1 },
  },
  'unsharp, wide': {
    kind: 'unsharp',
    strength: 100,
    numbers: { radius: 7.3, amount: 1.5, threshold: 0.004, light: 1, dark: 1 },
  },
  'unsharp, wider than the picture': {
    kind: 'unsharp',
    strength: 100,
    numbers: { radius: 40, amount: 0.6, threshold: 0, light: 1, dark: 1 },
  },
};

/** A small network in place of a trained one: means of a pixel's neighbours in some planes. */
const network: Network = {
  run: (planes, width, height, margin) => {
    const count = width * height;
    const out = new Float32Array(3 * count);
    for (let c = 0; c < 3; c++)
      for (let i = width + 1; i < count - width - 1; i++) {
        const near = planes[c * count + i - 1]! - planes[c * count + i + width]!;
        out[c * count + i] = 0.2 * near + 0.05 * planes[10 * count + i]! + 0.1 * planes[6 * count]!;
      }
    return withoutMargin(out, { width, height }, margin);
  },
};

/** A network that enlarges: neighbours' differences, and planes that it is told of. */
const enlarger: Network = {
  run: (planes, width, height, margin) => {
    const wide = 4 * width;
    const count = width * height;
    const all = Float32Array.from({ length: 48 * count }, (_, i) => {
      const c = Math.floor(i / (16 * count));
      const x = Math.floor((i % wide) / 4);
      const y = Math.floor((Math.floor(i / wide) % (4 * height)) / 4);
      const at = c * count + y * width + x;
      const near = (planes[at - 7] ?? 0) - (planes[at + 3 * width] ?? 0);
      return 0.1 * near + 0.02 * (i % 4) * planes[3 * count]! - 0.01 * planes[4 * count]!;
    });
    return withoutMargin(all, { width: wide, height: 4 * height }, 4 * margin);
  },
};

/**
 * A step on sources that throw when anything beyond what it asks for is read.
 * @param more pixels that its windows cover beyond that, where the pictures go on
 */
export async function apply(step: RecipeStep, region: Region, more = 0): Promise<Raster> {
  const stage = stages[step.kind] as unknown as Stage<string, object>;
  const { numbers } = step;
  const grids = { from: size, to: stage.size(numbers, size) };
  const given = stage.changes === 'luminance' ? luminanceWindow(picture).raster : picture;
  const window = async (raster: Raster, needed: Region): Promise<Window> => {
    const covered = grow(needed, more, raster);
    return { region: covered, raster: await memorySource(raster, covered).read(covered) };
  };
  const needed = stage.inputRegion(numbers, region, grids);
  const beside: Beside = {
    network: async () => (step.kind === 'upscale' ? enlarger : network),
  };
  if (stage.looksAtUntreated?.(numbers)) beside.untreated = await window(before, needed);
  const { reduction } = stage;
  if (reduction && reduction.factor(numbers) > 0) {
    const part = reduction.neededBy(numbers, region, grids);
    const input = await window(given, reduction.inputRegion(numbers, part, grids));
    beside.reduced = { region: part, raster: reduction.apply(input, numbers, part, grids) };
  }
  return stage.apply(await window(given, needed), numbers, region, grids, beside);
}

/** The grid that a case's result lies on. */
export const resultSize = (step: RecipeStep): Size =>
  stages[step.kind].size(step.numbers as never, size);
