import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cut } from '../raster/raster';
import { whole } from '../raster/region';
import { apply, cases, resultSize } from '../testing/cases';
import { stages, steps } from '.';
import type { Stage } from './step';

it('has a case for every step', () => {
  const covered = new Set(Object.values(cases).map((resolved) => resolved.kind));
  // An inset is no stage: the graph has both ways, and what blends them.
  const kinds = Object.keys(stages).filter((kind) => kind !== 'inset');
  expect([...covered].sort()).toEqual(kinds.sort());
});

describe.each(Object.entries(cases))('%s', (_, resolved) => {
  const step = stages[resolved.kind] as unknown as Stage<string, object>;
  const to = resultSize(resolved);

  it('gives the same bytes however the picture is cut', async () => {
    const all = await apply(resolved, whole(to));
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
      fc.asyncProperty(region, fc.integer({ min: 0, max: 9 }), async (part, more) => {
        const expected = cut({ region: whole(to), raster: all }, part);
        const got = await apply(resolved, part, more);
        expect(got.planes.map((plane) => Buffer.from(plane.buffer).toString('base64'))).toEqual(
          expected.planes.map((plane) => Buffer.from(plane.buffer).toString('base64')),
        );
      }),
      { numRuns: 40 },
    );
  });

  it('takes and gives numbers that its schema allows', () => {
    expect(step.numbers.safeParse(resolved.numbers).success).toBe(true);
    expect(step.numbers.safeParse(step.scaled(resolved.numbers, 0.3)).success).toBe(true);
  });
});

it.each(Object.values(steps))(
  '$title has defaults that its schema allows, and a summary',
  (step) => {
    expect(step.settings.safeParse(step.defaults).success).toBe(true);
    expect(step.summary(step.defaults as never, 50).length).toBeGreaterThan(3);
  },
);
