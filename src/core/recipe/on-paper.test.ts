import { describe, expect, it } from 'vitest';
import { UNFRAMED, type Framing } from '../frame/framing';
import { NO_GUARDS } from '../guard/guards';
import { NO_MODELS } from '../learned/models';
import type { Paper } from '../measure/paper';
import { cut, type Raster } from '../raster/raster';
import { whole } from '../raster/region';
import { render } from '../render/render';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { newStep } from './order';
import { originalOf } from './original';
import { propose } from './propose';
import { resolveRecipe } from './resolve';
import { onPaper } from './views';

const size = { width: 90, height: 60 };
const picture = testPicture(size);

function pairOf(framing: Partial<Framing>, change: Partial<Paper> = {}) {
  const findings = testFindings(size);
  const paper = testPaper({ width: { value: 9, unit: 'cm' }, ...change });
  const { work } = propose(findings, { paper, distance: 2 });
  const made = { ...work, framing: { ...UNFRAMED, ...framing } };
  const trial = { ...made.trials[0]!, guards: NO_GUARDS, treatment: [newStep('enlarge')] };
  const resolved = resolveRecipe(originalOf('e'.repeat(64), findings), made, trial, NO_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  return onPaper(resolved.recipe)!;
}
const read = (recipe: ReturnType<typeof pairOf>['original']) =>
  render(memorySource(picture), recipe).read(whole(recipe.target));

/** How far two pictures of one size are apart at most. */
function farthest(one: Raster, other: Raster): number {
  expect([one.width, one.height]).toEqual([other.width, other.height]);
  let most = 0;
  one.planes.forEach((plane, c) =>
    plane.forEach((value, i) => (most = Math.max(most, Math.abs(value - other.planes[c]![i]!)))),
  );
  return most;
}

describe('what of an original lies on the paper', () => {
  it('is the picture itself where all of it does', async () => {
    const { original, result } = pairOf({});
    expect(farthest(await read(original), picture)).toBeLessThan(1e-6);
    expect(result.target.width).toBeGreaterThan(size.width);
  });

  it('is the part that a crop leaves, pixel by pixel', async () => {
    const crop = { x: 10, y: 5, width: 60, height: 40 };
    const { original, result } = pairOf({ crop });
    const part = cut({ region: whole(size), raster: picture }, crop);
    expect(farthest(await read(original), part)).toBeLessThan(1e-6);
    expect(result.target.width / result.target.height).toBeCloseTo(1.5, 1);
  });

  it('leaves margins out, which no original has', () => {
    const { original, result } = pairOf(
      {},
      { width: { value: 12, unit: 'cm' }, height: { value: 6, unit: 'cm' }, fit: 'margin' },
    );
    expect(result.steps.some(({ kind }) => kind === 'mount')).toBe(false);
    expect(result.target.width / result.target.height).toBeCloseTo(1.5, 1);
    expect([original.target.width, original.target.height]).toEqual([90, 60]);
  });
});
