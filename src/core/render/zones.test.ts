import { NO_GUARDS } from '../guard/guards';
import { describe, expect, it } from 'vitest';
import { UNFRAMED } from '../frame/framing';
import { NO_MODELS } from '../learned/models';
import { cut, emptyRaster, type Raster } from '../raster/raster';
import { whole, type Size } from '../raster/region';
import { steps, summaryOf, type RecipeStep } from '../steps';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { Stroke } from '../zone/brush';
import { emptyMask, type Mask } from '../zone/mask';
import { mapOf, newPart, zonePart, type Zone } from '../zone/zone';
import {
  alone,
  fileOf,
  forOtherPictures,
  readTreatmentFile,
  unfiled,
} from '../recipe/treatment-file';
import { forgetZone, zonesOf } from '../recipe/zone-use';
import { Kept } from './kept';
import { listedIn, newStep, placeFor, stepsOn } from '../recipe/order';
import { propose } from '../recipe/propose';
import { RECIPE_VERSION } from '../recipe/versions';
import { Recipe } from '../recipe/recipe';
import { Work, type Treatment } from '../recipe/work';
import { render, renderZone } from './render';
import { atScale, beforeEnlarging, classically, fromHalved } from '../recipe/views';
import { graphOf } from '../recipe/graph';
import { resolveRecipe } from '../recipe/resolve';
import { originalOf } from '../recipe/original';
import { RGB } from '../raster/form';

const size: Size = { width: 96, height: 64 };
const picture = testPicture(size);
const source = memorySource(picture);
const order = { paper: testPaper({ width: { value: 9.6, unit: 'cm' } }), distance: 2 };

const left: Omit<Zone, 'id' | 'name'> = {
  parts: [{ ...newPart.linear(), x0: 0.5001, y0: 0.5, x1: 0.4999, y1: 0.5 }],
  painted: null,
  feather: 0,
  inverted: false,
};
const zone = (named: Partial<Zone> = {}): Zone => ({ ...left, id: 'z', name: 'Left', ...named });

function recipeOf(treatment: Treatment, zones: Zone[] = [zone()], change: Partial<Work> = {}) {
  const findings = testFindings(size);
  const { work } = propose(findings, order);
  const made = { ...work, ...change, zones };
  made.trials[0]!.treatment = treatment;
  const resolved = resolveRecipe(
    originalOf('e'.repeat(64), findings),
    made,
    made.trials[0]!,
    NO_MODELS,
  );
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const bright = (named: object = {}) => ({
  ...newStep('tones', { points: 0, exposure: 1 }),
  ...named,
});
const enlarge = newStep('enlarge', { method: 'nearest' });
const differs = (a: Raster, b: Raster, x: number, y: number) =>
  Math.abs(a.planes[0]![y * a.width + x]! - b.planes[0]![y * b.width + x]!);

describe('a step in a zone', () => {
  it('works there and nowhere else', async () => {
    const recipe = beforeEnlarging(recipeOf([bright({ zone: 'z' }), enlarge]));
    const result = await render(source, recipe).read(whole(size));
    for (const y of [3, 30, 60]) {
      expect(differs(result, picture, 10, y)).toBeGreaterThan(0.02);
      expect(differs(result, picture, 80, y)).toBe(0);
    }
  });

  it('works everywhere but there, where that is wanted', async () => {
    const recipe = beforeEnlarging(recipeOf([bright({ zone: 'z', elsewhere: true }), enlarge]));
    const result = await render(source, recipe).read(whole(size));
    for (const y of [3, 30, 60]) {
      expect(differs(result, picture, 10, y)).toBe(0);
      expect(differs(result, picture, 80, y)).toBeGreaterThan(0.02);
    }
  });

  it('is blended by zone and strength together', async () => {
    const grey = { ...left, parts: [{ ...newPart.tones(), from: 0, to: 1 }] };
    const at = async (strength: number) => {
      const recipe = recipeOf([bright({ zone: 'z', strength }), enlarge], [zone(grey)]);
      return render(source, beforeEnlarging(recipe)).read(whole(size));
    };
    const [half, full] = [await at(50), await at(100)];
    expect(differs(half, picture, 30, 30)).toBeCloseTo(differs(full, picture, 30, 30) / 2, 5);
  });

  it('can stand twice, each time with a zone of its own, and share one with others', async () => {
    const right = zone({ id: 'r', inverted: true });
    const both = recipeOf([bright({ zone: 'z' }), bright({ zone: 'r' }), enlarge], [zone(), right]);
    const everywhere = recipeOf([bright(), enlarge]);
    const read = (recipe: Recipe) => render(source, beforeEnlarging(recipe)).read(whole(size));
    const [a, b] = [await read(both), await read(everywhere)];
    for (const x of [5, 90]) expect(differs(a, b, x, 20)).toBeLessThan(1e-6);
  });

  it('carries its zone through the enlargement, however the picture is turned', async () => {
    const soft = { ...newStep('smooth', { radius: 3, threshold: 60 }), zone: 'z' };
    for (const [turn, inZone, beside] of [
      [0, [0.2, 0.5], [0.8, 0.5]],
      [90, [0.5, 0.2], [0.5, 0.8]],
      [180, [0.8, 0.5], [0.2, 0.5]],
    ] as const) {
      const framing = { ...UNFRAMED, turn };
      const recipe = recipeOf([enlarge, soft], [zone()], { framing });
      const without = recipeOf([enlarge], [], { framing });
      const [a, b] = [render(source, recipe), render(source, without)];
      const around = (of: typeof a, [x, y]: readonly [number, number]) =>
        of.read({
          x: Math.floor(x * of.size.width) - 10,
          y: Math.floor(y * of.size.height) - 10,
          width: 20,
          height: 20,
        });
      expect(await around(a, inZone)).not.toEqual(await around(b, inZone));
      expect(await around(a, beside)).toEqual(await around(b, beside));
    }
  });

  it('reads what was painted by its name, and says when nobody can', async () => {
    const mask = emptyMask(size);
    new Stroke(mask, { radius: 12, softness: 0.2, flow: 1, takingAway: false }).to({
      ...{ x: 70, y: 30 },
      pressure: 1,
    });
    const painted = { digest: 'c'.repeat(64), ...size };
    const recipe = beforeEnlarging(
      recipeOf([bright({ zone: 'z' }), enlarge], [zone({ parts: [], painted })]),
    );
    const masks = async ({ digest }: { digest: string }): Promise<Mask> => {
      expect(digest).toBe(painted.digest);
      return mask;
    };
    const result = await render(source, recipe, { masks }).read(whole(size));
    expect(differs(result, picture, 70, 30)).toBeGreaterThan(0.02);
    expect(differs(result, picture, 20, 30)).toBe(0);
    await expect(render(source, recipe).read(whole(size))).rejects.toThrow(/no masks to read/);
  });

  it('gives the same bytes kept or not, and with the cleaned picture materialised', async () => {
    const recipe = recipeOf([
      { ...newStep('noise', { engine: 'classical', luma: 6, colour: 5 }), zone: 'z' },
      bright({ zone: 'z', strength: 70 }),
      newStep('enlarge', { method: 'lanczos3' }),
      { ...newStep('texture', { returned: 60, grain: 3 }), zone: 'z' },
    ]);
    const all = await render(source, recipe).read(whole(recipe.target));
    const store = new Kept(1 << 24);
    const part = { x: 100, y: 70, width: 90, height: 50 };
    const expected = cut({ region: whole(recipe.target), raster: all }, part);
    expect(await render(source, recipe, { store }).read(part)).toEqual(expected);
    expect(await render(source, recipe, { store }).read(part)).toEqual(expected);
    const cleaned = memorySource(await render(source, beforeEnlarging(recipe)).read(whole(size)));
    const { hash } = graphOf({ ...recipe, steps: recipe.steps.slice(0, 2) }).result;
    const materialised = (of: string) => (of === hash ? cleaned : undefined);
    const onlyZones = memorySource(picture);
    expect(await render(onlyZones, recipe, { materialised }).read(part)).toEqual(expected);
  });

  it('computes nothing where its zone is empty', async () => {
    const learned: RecipeStep = {
      kind: 'noise',
      strength: 100,
      zone: { ...left, parts: [] },
      numbers: { grey: 5, colour: 5, model: 'f'.repeat(64) },
    };
    const recipe = { ...beforeEnlarging(recipeOf([enlarge])), steps: [learned] };
    // Its network would throw.
    expect(await render(source, recipe).read(whole(size))).toEqual(picture);
    const whole_ = {
      ...recipe,
      steps: [{ ...learned, zone: { ...left, parts: [], inverted: true } }],
    };
    await expect(render(source, whole_).read(whole(size))).rejects.toThrow(/No learned model/);
    await expect(render(source, classically(whole_)).read(whole(size))).resolves.toBeDefined();
  });
});

describe('a zone over the result', () => {
  it('lies where the picture lies on its sheet', async () => {
    const paper = testPaper({
      width: { value: 12, unit: 'cm' },
      height: { value: 6.4, unit: 'cm' },
      fit: 'margin',
    });
    const recipe = recipeOf([enlarge], [], { paper });
    const mounted = recipe.steps.find((step) => step.kind === 'mount')!.numbers;
    const shown = renderZone(source, recipe, mapOf(zone(), [], { size, faces: [] }));
    expect(shown.size).toEqual({ width: mounted.width, height: mounted.height });
    const { planes } = await shown.read(whole(shown.size));
    const at = (x: number) => planes[0]![(mounted.height >> 1) * mounted.width + x];
    expect(at(2)).toBe(0);
    expect(at(mounted.x + 20)).toBe(1);
    expect(at(mounted.width - mounted.x - 20)).toBe(0);
  });

  it('is the same in a rendering from afar, but for its coarseness', async () => {
    const recipe = recipeOf([enlarge]);
    const small = fromHalved(atScale(recipe, 0.1), 1);
    const half = emptyRaster(48, 32, RGB);
    const { planes, width, height } = await renderZone(
      memorySource(half),
      small,
      mapOf(zone(), [], { size, faces: [] }),
    ).read(whole(small.target));
    expect(planes[0]![(height >> 1) * width + 5]).toBe(1);
    expect(planes[0]![(height >> 1) * width + width - 5]).toBe(0);
  });
});

describe('steps seen from afar', () => {
  it('stay where tones or spots show, and are left out where nothing is seen of them', () => {
    const spots = newStep('retouch', {
      spots: [
        { id: 'a', how: 'heal', points: [[40, 20]], radius: 4, offset: [12, 0], softness: 0.3 },
      ],
    });
    const noise = newStep('noise', { luma: 5, colour: 5, engine: 'classical' });
    const recipe = recipeOf([noise, spots, bright({ zone: 'z' }), enlarge], [zone({ feather: 8 })]);
    const far = fromHalved(atScale(recipe, 0.1), 1);
    expect(far.steps.map(({ kind }) => kind)).toEqual(['retouch', 'tones', 'resample']);
    expect(far.steps[0]!.numbers).toMatchObject({ spots: [{ points: [[20, 10]], radius: 2 }] });
    expect(far.steps[1]!.zone!.feather).toBe(4);
  });
});

describe('the order of steps', () => {
  it('puts a new one where it is usually done, on its side of the enlargement', () => {
    const treatment: Treatment = [newStep('compression'), newStep('tones'), enlarge];
    expect(placeFor(treatment, 'noise')).toBe(1);
    expect(placeFor(treatment, 'texture')).toBe(2);
    expect(placeFor(treatment, 'compression')).toBe(1);
    expect(placeFor(treatment, 'smooth', true)).toBe(3);
    const after: Treatment = [enlarge, newStep('retouch'), newStep('unsharp')];
    expect(placeFor(after, 'texture', true)).toBe(2);
    expect(stepsOn(after, 'target').map(({ index }) => index)).toEqual([1, 2]);
    expect(stepsOn(after, 'original')).toEqual([]);
  });

  it('knows what may also stand after enlarging, and every kind has words', () => {
    expect(listedIn('target')).toEqual([
      ...['deblur', 'retouch', 'smooth', 'texture', 'inset'],
      ...['crisp', 'contrast', 'highpass', 'edges', 'unsharp', 'grain', 'paper'],
    ]);
    for (const kind of listedIn('original'))
      expect(summaryOf(newStep(kind)).length).toBeGreaterThan(3);
    expect(summaryOf({ ...newStep('compression', { luma: 80, colour: 60 }), strength: 50 })).toBe(
      '40 %',
    );
    expect(summaryOf(newStep('texture', { returned: 0, grain: 'auto' }))).toBe('grain auto');
  });
});

describe('works and recipes of version 2', () => {
  const { work } = propose(testFindings(size), order);
  const old = {
    ...structuredClone(work),
    version: 2,
    zones: undefined,
    trials: work.trials.map((trial) => ({
      ...trial,
      treatment: [{ kind: 'clean', on: true, strength: 70, settings: {} }, enlarge],
    })),
  };

  it('are brought forward: cleaning was against compression, and classical', () => {
    const read = Work.parse(old);
    expect(read.version).toBe(RECIPE_VERSION);
    expect(read.zones).toEqual([]);
    expect(read.trials[0]!.treatment[0]).toMatchObject({
      kind: 'compression',
      strength: 70,
      settings: { engine: 'classical', luma: 'auto', colour: 'auto' },
    });
  });

  it('stay marked with the core that they were made by', () => {
    const recipe = recipeOf([enlarge]);
    const {
      lumaShare: _,
      colourShare: __,
      model: ___,
      ...tables
    } = {
      ...steps.compression.resolve(steps.compression.defaults, {
        ...{
          jpeg: null,
          blocks: { x: 0, y: 0, quality: null },
          original: size,
          framing: UNFRAMED,
          phase: 'original',
        },
        ...{
          noise: { luma: 0, colour: 0 },
          history: null,
          models: NO_MODELS,
          distance: 2,
          material: null,
          blur: null,
        },
        grounds: [],
        tones: { black: [0, 0, 0], white: [1, 1, 1] },
        plan: { vector: false } as never,
        trialSteps: () => null,
      })!,
    };
    const read = Recipe.parse({
      ...recipe,
      version: 2,
      core: '2',
      steps: [{ kind: 'clean', strength: 70, numbers: tables }, ...recipe.steps],
    });
    expect(read).toMatchObject({ version: RECIPE_VERSION, core: '2' });
    expect(read.steps[0]).toMatchObject({
      kind: 'compression',
      numbers: { lumaShare: 1, colourShare: 1, model: null },
    });
  });
});

describe('a treatment file', () => {
  const treatment: Treatment = [
    { ...newStep('noise'), zone: 'z' },
    { ...newStep('smooth'), zone: 'p' },
    newStep('retouch'),
    enlarge,
  ];
  const painted = { digest: 'a'.repeat(64), ...size };
  const zones = [zone({ painted }), zone({ id: 'p', parts: [], painted })];

  it('for other pictures keeps computed zones, and drops what belongs to one alone', () => {
    const file = forOtherPictures({ name: 'Sky', guards: NO_GUARDS, treatment }, zones);
    expect(file.zones).toEqual([zone()]);
    expect(file.treatment.map(({ kind }) => kind)).toEqual(['noise', 'enlarge']);
    const read = readTreatmentFile(JSON.stringify(file));
    expect(read).toEqual({ ok: true, file });
  });

  it('holds a trial whole: steps, zones that they use, and what was painted', async () => {
    const asked: string[] = [];
    const file = await fileOf(
      { name: 'Sky', guards: NO_GUARDS, treatment },
      [...zones, zone({ id: 'unused' })],
      async (one) => {
        asked.push(one.digest);
        return Uint8Array.of(31, 139, 8);
      },
    );
    expect(asked).toEqual([painted.digest, painted.digest]);
    // One that is joined from both takes both along.
    const both = zone({ id: 'both', parts: [zonePart('z'), zonePart('p')] });
    const joined = await fileOf(
      { name: 'Sky', guards: NO_GUARDS, treatment: [bright({ zone: 'both' }), enlarge] },
      [...zones, both],
      async () => Uint8Array.of(31, 139, 8),
    );
    expect(joined.zones.map(({ id }) => id)).toEqual(['z', 'p', 'both']);
    expect(file.zones.map(({ id }) => id)).toEqual(['z', 'p']);
    expect(file.zones[0]!.painted!.bytes).toBe('H4sI');
    expect(readTreatmentFile(JSON.stringify(file))).toEqual({ ok: true, file });
  });

  it('takes the zones of other methods along, and leaves other trials behind', async () => {
    const parts = [
      { zone: 'z', method: 'nearest' as const },
      { zone: 'p', method: 'bilinear' as const },
    ];
    const mixed: Treatment = [
      newStep('enlarge', { method: 'lanczos3', parts }),
      { ...newStep('inset', { trial: 'b' }), zone: 'p' },
    ];
    const whole = await fileOf(
      { name: 'Sky', guards: NO_GUARDS, treatment: mixed },
      zones,
      async () => Uint8Array.of(31, 139, 8),
    );
    expect(whole.treatment).toEqual([mixed[0]]);
    expect(whole.zones.map(({ id }) => id)).toEqual(['z', 'p']);
    const others = forOtherPictures({ name: 'Sky', guards: NO_GUARDS, treatment: mixed }, zones);
    expect(others.treatment).toEqual([
      newStep('enlarge', { method: 'lanczos3', parts: parts.slice(0, 1) }),
    ]);
    expect(alone(mixed)).toHaveLength(1);
  });

  it('forgets a zone wherever it is used', () => {
    const parts = [{ zone: 'z', method: 'nearest' as const }];
    const mixed: Treatment = [
      { ...newStep('noise'), zone: 'z', elsewhere: true },
      newStep('enlarge', { method: 'lanczos3', parts }),
    ];
    expect(mixed.map(zonesOf)).toEqual([['z'], ['z']]);
    const { trials } = propose(testFindings(size), order).work;
    const both = zone({ id: 'both', parts: [zonePart('z'), newPart.round()] });
    const work = { trials: [{ ...trials[0]!, treatment: mixed }], zones: [zone(), both] };
    forgetZone(work, 'other');
    expect(mixed.flatMap(zonesOf)).toHaveLength(2);
    forgetZone(work, 'z');
    expect(mixed).toEqual([newStep('noise'), newStep('enlarge', { method: 'lanczos3' })]);
    expect(work.zones).toEqual([{ ...both, parts: [newPart.round()] }]);
  });

  it('carries what was painted', () => {
    const filed = { ...zones[0]!, painted: { ...painted, bytes: 'H4sIAA==' } };
    const text = JSON.stringify({
      ...forOtherPictures({ name: 'Sky', guards: NO_GUARDS, treatment: [enlarge] }, []),
      zones: [filed],
    });
    const read = readTreatmentFile(text);
    if (!read.ok) throw new Error(read.reason);
    expect(read.file.zones.map(unfiled)).toEqual([zones[0]]);
    expect(unfiled({ ...filed, painted: null }).painted).toBeNull();
  });

  const good = forOtherPictures({ name: 'Sky', guards: NO_GUARDS, treatment: [enlarge] }, []);
  it.each<[string, string, RegExp]>([
    ['no JSON', '{', /not JSON/],
    ['something else', '[1, 2]', /not a treatment/],
    ['one from the future', JSON.stringify({ ...good, version: 99 }), /later Lontano \(form 99/],
    [
      'an unknown step',
      JSON.stringify({ ...good, treatment: [{ kind: 'polish' }, enlarge] }),
      /step “polish”/,
    ],
    [
      'a strength beyond its range',
      JSON.stringify({ ...good, treatment: [{ ...newStep('noise'), strength: 140 }, enlarge] }),
      /treatment\.0\.strength/,
    ],
    ['two enlargements', JSON.stringify({ ...good, treatment: [enlarge, enlarge] }), /exactly one/],
    [
      'a zone too large',
      JSON.stringify({
        ...good,
        zones: [zone({ painted: { ...painted, width: 90_000 } })],
      }),
      /zones\.0\.painted/,
    ],
  ])('with %s is refused in words', (_, text, words) => {
    const read = readTreatmentFile(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.reason).toMatch(words);
  });
});
