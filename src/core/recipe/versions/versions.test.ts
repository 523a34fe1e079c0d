import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { NO_GUARDS } from '../../guard/guards';
import { Recipe } from '../recipe';
import { readTreatmentFile } from '../treatment-file';
import { Work } from '../work';
import { RECIPE_VERSION } from '.';

/** What each version kept, as it was written then. */
const kept = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`./kept/${name}.json`, import.meta.url), 'utf8'));

describe('works', () => {
  it.each([1, 2, 3, 4, 5])('of version %d are read', (version) => {
    const work = Work.parse(kept(`work-${version}`));
    expect(work).toMatchObject({
      version: RECIPE_VERSION,
      distance: 4,
      begun: version < 3 ? 1 : 3,
    });
    // Nothing kept their sharpening from being overdone, and nothing does now.
    expect(work.trials[0]!.guards).toEqual(NO_GUARDS);
    const kinds = work.trials[0]!.treatment.map(({ kind }) => kind);
    expect(kinds).toEqual(['compression', 'enlarge', 'unsharp']);
    expect(work.trials[0]!.treatment[2]).toMatchObject({
      strength: 80,
      settings: { radius: 0.42, unit: 'mm', amount: 60, threshold: 2 },
    });
  });

  it('of version 5 and before say of their files what was done then, and tag new ones', () => {
    const { output } = Work.parse(kept('work-5')).trials[0]!;
    expect(output).toMatchObject({
      ...{ format: 'jpeg', compression: 'lossy', sampling: '4:2:0', progressive: false },
      ...{ dither: 'never', colour: null, untagged: 'srgb', exif: 'keep' },
    });
    for (const version of [1, 5]) {
      expect(Recipe.parse(kept(`recipe-${version}`)).output).toMatchObject({
        ...{ format: 'tiff', compression: 'none', untagged: 'none', exif: 'drop' },
        ...{ dither: 'never', colour: null },
      });
      expect(Recipe.parse(kept(`recipe-${version}`))).toMatchObject({
        ...{ tagOnly: false, target: { bleed: 0 } },
      });
    }
  });

  it('of version 3 keep their methods by the names that these have now', () => {
    const { trials } = Work.parse(kept('work-3'));
    expect(trials[1]!.treatment[0]).toMatchObject({
      settings: { method: 'lanczos3-jinc', parts: [{ zone: 'z', method: 'lanczos3-jinc' }] },
    });
  });
});

describe('recipes', () => {
  it.each([1, 2, 3, 4, 5])('of version %d are read, and stay marked with their core', (version) => {
    const recipe = Recipe.parse(kept(`recipe-${version}`));
    expect(recipe).toMatchObject({
      version: RECIPE_VERSION,
      core: ({ 4: '8', 5: '12' } as Record<number, string>)[version] ?? String(version),
    });
    const kinds = recipe.steps.map(({ kind }) => kind);
    const inset = version >= 3 ? ['upscale', 'resample', 'inset'] : ['resample'];
    expect(kinds).toEqual(
      ['compression', ...inset, 'unsharp', 'mount'].slice(0, version < 2 ? 3 : 9),
    );
  });

  it('of version 3 keep what insets and sheets hold', () => {
    const { steps } = Recipe.parse(kept('recipe-3'));
    expect(steps[3]).toMatchObject({
      numbers: { steps: [{ kind: 'resample', numbers: { method: 'lanczos3-jinc' } }] },
    });
    expect(steps[5]).toMatchObject({ numbers: { left: 'clamp', right: 'mirror' } });
  });
});

describe('treatment files', () => {
  it.each([3, 4, 5])('of version %d are read', (version) => {
    const read = readTreatmentFile(JSON.stringify(kept(`treatment-${version}`)));
    expect(read.ok && read.file.treatment.map(({ kind }) => kind)).toEqual([
      'noise',
      'enlarge',
      'unsharp',
    ]);
  });
});
