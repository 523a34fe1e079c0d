import { describe, expect, it } from 'vitest';
import { ALL_MODELS, NO_MODELS } from '../learned/models';
import { emptyRaster, type Raster } from '../raster/raster';
import { whole } from '../raster/region';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import type { Zone } from '../zone/zone';
import { newStep } from '../recipe/order';
import { propose } from '../recipe/propose';
import { Recipe } from '../recipe/recipe';
import { stepOf, type Work } from '../recipe/work';
import { render } from './render';
import { atScale, classically, fromHalved, untreated } from '../recipe/views';
import { resolveRecipe } from '../recipe/resolve';
import { originalOf } from '../recipe/original';
import { branchTrial } from '../recipe/trials';
import { RGB } from '../raster/form';

const size = { width: 90, height: 60 };
const findings = testFindings(size);
const source = memorySource(testPicture(size));
/** All but the picture's left part, by its tones: everything, or nothing. */
const everywhere: Zone = {
  ...{ id: 'all', name: 'All', parts: [], painted: null, feather: 0, inverted: true },
};
const nowhere: Zone = { ...everywhere, id: 'none', inverted: false };

function workOf(change: (work: Work) => void): Work {
  const paper = testPaper({ width: { value: 200, unit: 'px' } });
  const { work } = propose(findings, { paper, distance: 2 });
  work.zones = [everywhere, nowhere];
  work.trials[0]!.treatment = [newStep('enlarge', { method: 'bicubic' })];
  change(work);
  return work;
}

function recipeOf(work: Work, id = 'a', models = NO_MODELS): Recipe {
  const trial = work.trials.find((one) => one.id === id)!;
  const resolved = resolveRecipe(originalOf('a'.repeat(64), findings), work, trial, models);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const rendered = (recipe: Recipe): Promise<Raster> =>
  render(source, recipe).read(whole(recipe.target));
/** Zones are carried along by a resampling, which is exact to some millionths. */
function expectAlike(a: Raster, b: Raster): void {
  a.planes.forEach((plane, c) =>
    plane.forEach((value, i) => expect(Math.abs(value - b.planes[c]![i]!)).toBeLessThan(1e-6)),
  );
}

const kinds = ({ steps }: Recipe) => steps.map(({ kind }) => kind);

describe('another method in a zone', () => {
  const withPart = (zone: string) =>
    workOf(({ trials }) => {
      stepOf(trials[0]!.treatment, 'enlarge')!.settings.parts = [{ zone, method: 'nearest' }];
    });

  it('is that method where the zone is whole, and the main one where it is empty', async () => {
    const plain = workOf(() => {});
    const nearest = workOf(({ trials }) => {
      stepOf(trials[0]!.treatment, 'enlarge')!.settings.method = 'nearest';
    });
    const all = await rendered(recipeOf(withPart('all')));
    expectAlike(all, await rendered(recipeOf(nearest)));
    const none = await rendered(recipeOf(withPart('none')));
    expect(none).toEqual(await rendered(recipeOf(plain)));
  });

  it('mixes both where the zone is half', async () => {
    const half = withPart('all');
    const recipe = recipeOf(half);
    const inset = recipe.steps.find(({ kind }) => kind === 'inset')!;
    inset.strength = 50;
    const mixed = await rendered(recipe);
    const one = await rendered(recipeOf(withPart('none')));
    const other = await rendered(recipeOf(withPart('all')));
    mixed.planes[0]!.forEach((value, i) =>
      expect(value).toBeCloseTo((one.planes[0]![i]! + other.planes[0]![i]!) / 2, 5),
    );
  });

  it('is left out where its zone is gone', () => {
    expect(kinds(recipeOf(withPart('elsewhere')))).toEqual(['resample']);
  });

  it('asks networks of its own', () => {
    const work = workOf(({ trials }) => {
      const { settings } = stepOf(trials[0]!.treatment, 'enlarge')!;
      settings.method = 'learned-photo';
      settings.parts = [{ zone: 'all', method: 'learned-art' }];
    });
    const recipe = recipeOf(work, 'a', ALL_MODELS);
    expect(kinds(recipe)).toEqual(['upscale', 'resample', 'inset']);
    expect(JSON.stringify(recipe.steps[2])).toContain(ALL_MODELS.art);
    expect(JSON.stringify(classically(recipe))).not.toContain('upscale');
    expect(kinds(untreated(recipe))).toEqual(['resample']);
  });
});

describe('another trial in a zone', () => {
  const work = workOf((one) => {
    const [first] = one.trials;
    branchTrial(one, first!, (other) => {
      other.treatment = [
        { ...newStep('tones', { exposure: 1 }), strength: 100 },
        newStep('enlarge', { method: 'mitchell' }),
        newStep('unsharp', { radius: 2, unit: 'px' }),
        newStep('inset', { trial: 'a' }),
      ];
      // Sharpening is the last of what may stand there.
      other.treatment.splice(2, 2, other.treatment[3]!, other.treatment[2]!);
    });
    first!.treatment.push({ ...newStep('inset', { trial: 'b' }), zone: 'all' });
  });

  it('is what that trial makes, without what it takes from others itself', async () => {
    const alone = structuredClone(work);
    alone.trials[1]!.treatment = alone.trials[1]!.treatment.filter(({ kind }) => kind !== 'inset');
    expectAlike(await rendered(recipeOf(work)), await rendered(recipeOf(alone, 'b')));
    // Each of the two takes the other: neither goes round in a circle.
    expect(kinds(recipeOf(work, 'b'))).toContain('inset');
  });

  it('is nothing where there is no such trial, or none was chosen', () => {
    for (const trial of ['z', 'a', null]) {
      const other = workOf(({ trials }) => trials[0]!.treatment.push(newStep('inset', { trial })));
      expect(kinds(recipeOf(other))).toEqual(['resample']);
    }
  });

  it('is small in small renderings', async () => {
    const recipe = recipeOf(work);
    const small = atScale(recipe, 0.5);
    expect(await rendered(small)).toMatchObject({ width: small.target.width });
    const halved = fromHalved(atScale(recipe, 0.2), 1);
    const { width, height } = halved.original;
    const little = memorySource(emptyRaster(width, height, RGB));
    expect(await render(little, halved).read(whole(halved.target))).toMatchObject({ width: 40 });
  });
});

it('is kept in a recipe even where the other trial has nothing to do, as with shapes', () => {
  const recipe = recipeOf(workOf(() => {}));
  const empty = { kind: 'inset' as const, strength: 100, numbers: { steps: [] } };
  const read = Recipe.parse({ ...recipe, steps: [...recipe.steps, empty] });
  expect(kinds(read)).toEqual(['resample', 'inset']);
});
