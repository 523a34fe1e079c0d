import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_MODELS } from '@/core/learned/models';
import { cut } from '@/core/raster/raster';
import { whole } from '@/core/raster/region';
import { testFindings, testPaper, testPicture } from '@/core/testing';
import { newStep } from '@/core/treatment/order';
import { propose } from '@/core/treatment/propose';
import { BLOCK } from '@/core/treatment/render';
import { settle } from '@/core/treatment/settle';
import { originalOf } from '@/core/treatment/source';
import { cleanedBlocks, cleanedBytes, cleaningOf, openCleaned, writeCleaned } from './cleaned-file';

const size = { width: BLOCK + 70, height: BLOCK + 30 };
const layout = { size, channels: 3 };
const picture = testPicture(size);
let folder: string;
let path: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-cleaned-'));
  path = join(folder, 'cleaned');
  await writeFile(path, '');
  const blocks = cleanedBlocks(layout);
  // In no order, as threads write them.
  for (const index of [3, 0, 2, 1]) {
    const raster = cut({ region: whole(size), raster: picture }, blocks[index]!);
    await writeCleaned(path, layout, index, raster);
  }
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('a cleaned picture on disk', () => {
  it.each([
    [{ x: 0, y: 0, width: 10, height: 10 }],
    [{ x: BLOCK - 5, y: BLOCK - 7, width: 20, height: 30 }],
    [{ x: 0, y: 100, width: size.width, height: 3 }],
    [{ x: size.width - 1, y: size.height - 1, width: 1, height: 1 }],
  ])('gives back just what was written, over %j', async (region) => {
    const source = openCleaned(path, layout);
    expect(source.size).toEqual(size);
    const expected = cut({ region: whole(size), raster: picture }, region);
    expect(await source.read(region)).toEqual(expected);
    expect(await source.read(region)).toEqual(expected);
  });

  it('takes its bytes for whole blocks', () => {
    expect(cleanedBlocks(layout)).toHaveLength(4);
    expect(cleanedBytes(layout)).toBe(4 * BLOCK * BLOCK * 3 * 4);
  });
});

describe('what is computed before the strips', () => {
  const findings = testFindings(size);
  const recipeOf = (steps: Parameters<typeof newStep>[0][]) => {
    const { work } = propose(findings, { paper: testPaper(), distance: 2 });
    work.trials[0]!.treatment = steps.map((kind) => newStep(kind));
    const settled = settle(originalOf('a', findings), work, work.trials[0]!, NO_MODELS);
    if (!settled.ok) throw new Error(settled.reason);
    return settled.recipe;
  };

  it('is all that stands before the enlargement, and nothing where that is nothing', () => {
    const recipe = recipeOf(['specks', 'banding', 'enlarge', 'smooth']);
    expect(cleaningOf(recipe)!.steps.map(({ kind }) => kind)).toEqual(['specks', 'banding']);
    expect(cleaningOf(recipeOf(['enlarge', 'smooth']))).toBeNull();
    const drawn = { source: { x: 0, y: 0, width: 1, height: 1 }, turn: 0 as const };
    expect(cleaningOf({ ...recipe, original: { ...recipe.original, drawn } })).toBeNull();
  });
});
