import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { cut, type Raster } from '../raster/raster';
import { whole, type Region, type Size } from '../raster/region';
import { memorySource, testPicture } from '../testing';
import { stages, steps, type SettledStep } from '.';
import type { Stage } from './step';

const size: Size = { width: 83, height: 61 };
const picture = testPicture(size);

const tables = {
  luma: tableAtQuality(STANDARD_LUMA, 30),
  chroma: tableAtQuality(STANDARD_CHROMA, 30),
};
const enlargement = (
  method: 'nearest' | 'bilinear' | 'bicubic' | 'lanczos3',
  factor: number,
  turn: 0 | 90 | 180 | 270 = 0,
  straighten = 0,
) => ({
  kind: 'enlarge' as const,
  strength: 100,
  numbers: {
    method,
    // Within the turned picture too, whose sides have changed places.
    source: { x: 3.3, y: 2.25, width: 51.4, height: 53.1 },
    turn,
    straighten,
    width: Math.round(51.4 * factor),
    height: Math.round(53.1 * factor),
  },
});

/** At least one case a step, and each of its ways to compute. A new step adds its own here. */
const cases: Record<string, SettledStep> = {
  'clean 4:2:0': {
    kind: 'clean',
    strength: 100,
    numbers: { ...tables, samplingX: 2, samplingY: 2, gridX: 0, gridY: 0 },
  },
  'clean, turned grid': {
    kind: 'clean',
    strength: 100,
    numbers: { ...tables, samplingX: 2, samplingY: 1, gridX: -13, gridY: -3 },
  },
  'clean, grey': {
    kind: 'clean',
    strength: 100,
    numbers: { ...tables, chroma: null, samplingX: 1, samplingY: 1, gridX: 0, gridY: 0 },
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
