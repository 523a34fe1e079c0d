import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { cut, type Raster } from '../raster/raster';
import { whole, type Region, type Size } from '../raster/region';
import type { Network } from '../learned/network';
import { memorySource, testPicture, withoutMargin } from '../testing';
import { stages, steps, type SettledStep } from '.';
import type { Plain } from './enlarge/methods';
import type { Stage, Tools } from './step';

const size: Size = { width: 83, height: 61 };
const picture = testPicture(size);
/** What there was before some cleaning. */
const before = testPicture(size, 5);
const MODEL = 'a'.repeat(64);

const tables = {
  ...{ lumaShare: 1, colourShare: 1, model: null },
  luma: tableAtQuality(STANDARD_LUMA, 30),
  chroma: tableAtQuality(STANDARD_CHROMA, 30),
};
const enlargement = (
  method: Plain,
  factor: number,
  turn: 0 | 90 | 180 | 270 = 0,
  straighten = 0,
  more: { light?: 'linear'; limit?: number } = {},
) => ({
  kind: 'enlarge' as const,
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
const cases: Record<string, SettledStep> = {
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
  noise: { kind: 'noise', strength: 100, numbers: { grey: 9, colour: 4, model: null } },
  'noise, learned': { kind: 'noise', strength: 100, numbers: { grey: 9, colour: 0, model: MODEL } },
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
  'nearest, straightened': enlargement('nearest', 2.2, 0, 20),
  'reduce, straightened': enlargement('bicubic', 0.4, 0, 31),
  'enlarge lanczos2': enlargement('lanczos2', 5.1),
  'enlarge mitchell, in linear light': enlargement('mitchell', 2.6, 0, 0, { light: 'linear' }),
  'enlarge, ringing limited': enlargement('lanczos3', 3.3, 0, 0, { limit: 0.7 }),
  'enlarge, ringing limited, straightened': enlargement('lanczos3', 3.3, 0, 5, { limit: 0.7 }),
  'enlarge, round': enlargement('lanczos3-round', 2.3, 0, 0, { limit: 1 }),
  'reduce, round, straightened': enlargement('lanczos3-round', 0.6, 90, 11),
  'enlarge, stepped': enlargement('stepped', 3.3),
  'enlarge, stepped, straightened': enlargement('stepped', 2.4, 180, 4),
  magnify: {
    kind: 'magnify',
    strength: 100,
    numbers: { model: MODEL, luma: 0.3, colour: 0.6 },
  },
  'magnify without a model': {
    kind: 'magnify',
    strength: 100,
    numbers: { model: null, luma: 0, colour: 0 },
  },
  inset: {
    kind: 'inset',
    strength: 100,
    numbers: { steps: [{ ...enlargement('bicubic', 2) }] },
  },
  regrid: { kind: 'regrid', strength: 100, numbers: { width: 19, height: 23 } },
  'mount with margins': {
    kind: 'mount',
    strength: 100,
    numbers: {
      ...{ width: 120, height: 70, x: 20, y: 3 },
      ...{ left: 'colour', right: 'colour', top: 'mirror', bottom: 'rim', colour: '#8040ff' },
    },
  },
  'mount, mirrored over and over': {
    kind: 'mount',
    strength: 100,
    numbers: {
      ...{ width: 300, height: 75, x: 180, y: 5 },
      ...{ left: 'mirror', right: 'rim', top: 'rim', bottom: 'mirror', colour: '#ffffff' },
    },
  },
  sharpen: {
    kind: 'sharpen',
    strength: 100,
    numbers: { radius: 1.7, amount: 1.2, threshold: 0.01 },
  },
  'sharpen, tiny radius': {
    kind: 'sharpen',
    strength: 100,
    numbers: { radius: 0.01, amount: 3, threshold: 0 },
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

const tools: Tools = {
  network: async () => network,
  untreated: (region) => memorySource(before).read(region),
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

/** A step on a source that throws when anything beyond the step's own pull is read. */
async function apply(settled: SettledStep, region: Region): Promise<Raster> {
  const step = stages[settled.kind] as unknown as Stage<string, object>;
  const grids = { from: size, to: step.size(settled.numbers, size) };
  const pulled = step.pull(settled.numbers, region, grids);
  const source = memorySource(picture, pulled);
  return step.apply(
    { region: pulled, raster: await source.read(pulled) },
    settled.numbers,
    region,
    grids,
    settled.kind === 'magnify' ? { ...tools, network: async () => enlarger } : tools,
  );
}

it('has a case for every step', () => {
  const covered = new Set(Object.values(cases).map((settled) => settled.kind));
  expect([...covered].sort()).toEqual(Object.keys(stages).sort());
});

describe.each(Object.entries(cases))('%s', (_, settled) => {
  const step = stages[settled.kind] as unknown as Stage<string, object>;
  const to = step.size(settled.numbers, size);

  it('gives the same bytes however the picture is cut', async () => {
    const all = await apply(settled, whole(to));
    for (const plane of all.planes) expect(plane.every(Number.isFinite)).toBe(true);
    const region = fc
      .record({
        x: fc.integer({ min: 0, max: to.width - 1 }),
        y: fc.integer({ min: 0, max: to.height - 1 }),
        width: fc.integer({ min: 1, max: 40 }),
        height: fc.integer({ min: 1, max: 40 }),
      })
      .map((part) => ({
        ...part,
        width: Math.min(part.width, to.width - part.x),
        height: Math.min(part.height, to.height - part.y),
      }));
    await fc.assert(
      fc.asyncProperty(region, async (part) => {
        const expected = cut({ region: whole(to), raster: all }, part);
        const got = await apply(settled, part);
        expect(got.planes.map((plane) => Buffer.from(plane.buffer).toString('base64'))).toEqual(
          expected.planes.map((plane) => Buffer.from(plane.buffer).toString('base64')),
        );
      }),
      { numRuns: 40 },
    );
  });

  it('takes and gives numbers that its schema allows', () => {
    expect(step.numbers.safeParse(settled.numbers).success).toBe(true);
    expect(step.numbers.safeParse(step.scaled(settled.numbers, 0.3)).success).toBe(true);
  });
});

it.each(Object.values(steps))(
  '$title has defaults that its schema allows, and a summary',
  (step) => {
    expect(step.settings.safeParse(step.defaults).success).toBe(true);
    expect(step.summary(step.defaults as never, 50).length).toBeGreaterThan(3);
  },
);
