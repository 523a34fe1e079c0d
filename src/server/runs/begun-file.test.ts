import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ALL_MODELS, NO_MODELS, type Models } from '@/core/learned/models';
import { cut } from '@/core/raster/raster';
import { whole } from '@/core/raster/region';
import { testFindings, testPaper, testPicture } from '@/core/testing';
import { newStep } from '@/core/treatment/order';
import { propose } from '@/core/treatment/propose';
import { BLOCK } from '@/core/treatment/render';
import type { SettledRecipe, Trial } from '@/core/treatment/recipe';
import { settle } from '@/core/treatment/settle';
import { originalOf } from '@/core/treatment/source';
import { begunBlocks, begunBytes, begunPictures, openBegun, writeBegun } from './begun-file';

const size = { width: BLOCK + 70, height: BLOCK + 30 };
const layout = { steps: [], size, channels: 3, block: { width: BLOCK, height: BLOCK } };
const picture = testPicture(size);
const A_METRE = { value: 1, unit: 'm' as const };
let folder: string;
let path: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-begun-'));
  path = join(folder, 'begun');
  await writeFile(path, '');
  const blocks = begunBlocks(layout);
  // In no order, as threads write them.
  for (const index of [3, 0, 2, 1]) {
    const raster = cut({ region: whole(size), raster: picture }, blocks[index]!);
    await writeBegun(path, layout, index, raster);
  }
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('a begun picture on disk', () => {
  it.each([
    [{ x: 0, y: 0, width: 10, height: 10 }],
    [{ x: BLOCK - 5, y: BLOCK - 7, width: 20, height: 30 }],
    [{ x: 0, y: 100, width: size.width, height: 3 }],
    [{ x: size.width - 1, y: size.height - 1, width: 1, height: 1 }],
  ])('gives back just what was written, over %j', async (region) => {
    const source = openBegun(path, layout);
    expect(source.size).toEqual(size);
    const expected = cut({ region: whole(size), raster: picture }, region);
    expect(await source.read(region)).toEqual(expected);
    expect(await source.read(region)).toEqual(expected);
  });

  it('takes its bytes for whole blocks', () => {
    expect(begunBlocks(layout)).toHaveLength(4);
    expect(begunBytes(layout)).toBe(4 * BLOCK * BLOCK * 3 * 4);
  });
});

describe('what is computed before the strips', () => {
  const findings = testFindings(size);
  const recipeOf = (treatment: Trial['treatment'], models: Models = NO_MODELS) => {
    const { work } = propose(findings, { paper: testPaper({ width: A_METRE }), distance: 2 });
    work.trials[0]!.treatment = treatment;
    const settled = settle(originalOf('a', findings), work, work.trials[0]!, models);
    if (!settled.ok) throw new Error(settled.reason);
    return settled.recipe;
  };
  const enlarge = newStep('enlarge', { method: 'learned-photo' });
  const stepsOf = (recipe: SettledRecipe) =>
    begunPictures(recipe, 3).map(({ steps }) => steps.at(-1)!.kind);

  it('is all that stands before the enlargement, and nothing where that is nothing', () => {
    const recipe = recipeOf([newStep('specks'), newStep('banding'), enlarge, newStep('smooth')]);
    const steps = recipe.steps.slice(0, 2);
    expect(begunPictures(recipe, 4)).toEqual([
      // Shared out evenly between four blocks.
      { steps, size, channels: 4, block: { width: 296, height: 272 } },
    ]);
    expect(begunPictures(recipeOf([enlarge, newStep('smooth')]), 3)).toEqual([]);
    const drawn = { source: { x: 0, y: 0, width: 1, height: 1 }, turn: 0 as const };
    expect(begunPictures({ ...recipe, original: { ...recipe.original, drawn } }, 3)).toEqual([]);
  });

  it('is the cleaned picture, and then what a network makes of it', () => {
    const recipe = recipeOf([newStep('specks'), newStep('banding'), enlarge], ALL_MODELS);
    expect(stepsOf(recipe)).toEqual(['banding', 'magnify']);
    const [, magnified] = begunPictures(recipe, 3);
    expect(magnified!.size).toEqual({ width: 4 * size.width, height: 4 * size.height });
    expect(stepsOf(recipeOf([enlarge], ALL_MODELS))).toEqual(['magnify']);
  });
});
