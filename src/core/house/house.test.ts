import { describe, expect, it } from 'vitest';
import { NO_GUARDS } from '../guard/guards';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { ALL_MODELS } from '../learned/models';
import { usualOutput } from '../output/output';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import { resolveRecipe } from '../recipe/resolve';
import { RECIPE_VERSION } from '../recipe/versions';
import { TRIALS, Work, type Trial } from '../recipe/work';
import { testFindings, testPaper } from '../testing';
import { newPart, type Zone } from '../zone/zone';
import { followsRecipe, putRecipe, tryRecipe } from './apply';
import { stepChanges } from './changes';
import { HouseContent } from './house-recipe';
import { houseContent, leftOut } from './keep';
import { houseFile, readHouseFile } from './recipe-file';
import { startSet } from './start-set';
import { suitingRecipes } from './suits';

const findings = testFindings({ width: 720, height: 480 });
const order = { paper: testPaper({ width: { value: 120, unit: 'cm' } }), distance: 2 };
const workOf = (): Work => propose(findings, order).work;

const zone = (id: string, more: Partial<Zone> = {}): Zone => ({
  ...{ id, name: id, parts: [newPart.flat()], painted: null, feather: 0, inverted: false },
  ...more,
});
const painted = { digest: 'a'.repeat(64), width: 720, height: 480 };

/** A trial with whatever a technician may have done to it. */
const treated = (more: Partial<Trial> = {}): Trial => ({
  ...workOf().trials[0]!,
  treatment: [
    { ...newStep('noise'), zone: 'sky' },
    { ...newStep('smooth'), zone: 'brushed' },
    newStep('retouch', { spots: [] }),
    newStep('enlarge', { method: 'lanczos3', parts: [{ zone: 'sky', method: 'nearest' }] }),
    newStep('unsharp', { radius: 0.4, unit: 'mm' }),
  ],
  ...more,
});
const zones = [
  zone('sky'),
  zone('brushed', { parts: [], painted }),
  zone('both', { painted }),
  zone('unused'),
];
const about = { kind: 'photograph' as const, material: null, note: 'for walls' };
const keeping = { ...about, ppi: false, output: false };

describe('a trial that is kept as a house recipe', () => {
  it('keeps what is relative, and leaves out what belongs to its picture', () => {
    const content = houseContent(treated(), zones, keeping);
    expect(content.treatment.map(({ kind }) => kind)).toEqual(['noise', 'enlarge', 'unsharp']);
    expect(content.zones.map(({ id }) => id)).toEqual(['sky']);
    expect(content).toMatchObject({ ...about, ppi: null, output: null });
    expect(HouseContent.parse(content)).toEqual(content);
  });

  it('says what it leaves out', () => {
    const words = leftOut(treated(), zones);
    expect(words).toHaveLength(3);
    expect(words[0]).toContain('“brushed”, which was painted');
    expect(words[1]).toContain('spots');
    expect(words[2]).toContain('“both”');
    expect(leftOut(treated({ treatment: [newStep('enlarge')] }), [])).toEqual([]);
  });

  it('takes resolution and form of the file along where that is wanted', () => {
    const output = usualOutput('jpeg', 8);
    const content = houseContent(treated({ ppi: 222, output }), zones, {
      ...about,
      ...{ ppi: true, output: true },
    });
    expect(content).toMatchObject({ ppi: 222, output });
  });
});

describe('a recipe put on a picture', () => {
  const content = houseContent(treated(), zones, keeping);
  const named = { id: 7, version: 3, name: 'Walls', content };

  it('begins a trial beside those that there are, by its name, and says which version it is of', () => {
    const work = workOf();
    const [first] = structuredClone(work.trials);
    const trial = tryRecipe(work, work.trials[0]!, named)!;
    expect(work.trials).toHaveLength(2);
    expect(work.trials[0]).toEqual(first);
    expect(tryRecipe(work, trial, named)!.name).toBe('Walls 2');
    work.trials.pop();
    expect(trial).toMatchObject({
      ...{ name: 'Walls', house: { id: 7, version: 3, name: 'Walls' } },
      ...{ ppi: first!.ppi, output: first!.output },
    });
    expect(Work.parse(work)).toEqual(work);
    const original = originalOf('a'.repeat(64), findings);
    expect(resolveRecipe(original, work, trial, ALL_MODELS).ok).toBe(true);
  });

  it('uses zones that are there already, and gives others a name that is free', () => {
    const work = { ...workOf(), zones: [zone('sky', { inverted: true })] };
    putRecipe(work, work.trials[0]!, named);
    putRecipe(work, work.trials[0]!, named);
    expect(work.zones.map(({ id }) => id)).toEqual(['sky', 'sky-2']);
    expect(work.trials[0]!.treatment[0]).toMatchObject({ zone: 'sky-2' });
    expect(work.trials[0]!.treatment[1]).toMatchObject({
      settings: { parts: [{ zone: 'sky-2', method: 'nearest' }] },
    });
  });

  it('keeps what zones are joined from together', () => {
    const joined = zone('joined', {
      parts: [{ kind: 'zone', id: 'sky', joining: 'add', inverted: false }],
    });
    const trial = treated({
      treatment: [{ ...newStep('noise'), zone: 'joined' }, newStep('enlarge')],
    });
    const held = houseContent(trial, [zone('sky'), joined], keeping);
    const work = { ...workOf(), zones: [zone('sky', { feather: 4 })] };
    putRecipe(work, work.trials[0]!, { ...named, content: held });
    const [, , put] = work.zones;
    expect(work.zones.map(({ id }) => id)).toEqual(['sky', 'sky-2', 'joined']);
    expect(put!.parts).toMatchObject([{ kind: 'zone', id: 'sky-2' }]);
  });

  it('is followed until something of its steps or guards is changed', () => {
    const work = workOf();
    const trial = tryRecipe(work, work.trials[0]!, named)!;
    expect(followsRecipe(trial, content)).toBe(true);
    expect(followsRecipe({ ...trial, guards: NO_GUARDS }, content)).toBe(false);
    trial.treatment[0]!.strength = 50;
    expect(followsRecipe(trial, content)).toBe(false);
  });

  it('is not begun on a picture that has as many trials as can be', () => {
    const work = workOf();
    while (work.trials.length < TRIALS) tryRecipe(work, work.trials[0]!, named);
    expect(tryRecipe(work, work.trials[0]!, named)).toBeNull();
  });
});

describe('what a recipe would change', () => {
  it('is told step by step, in their order', () => {
    const steps = (...treatment: Trial['treatment']) => ({ treatment });
    const changes = stepChanges(
      steps(newStep('compression'), newStep('noise'), newStep('enlarge', { method: 'bicubic' })),
      steps(
        newStep('noise', { luma: 4 }),
        newStep('enlarge', { method: 'lanczos3' }),
        { ...newStep('paper'), on: false },
        newStep('unsharp'),
      ),
    );
    expect(changes.map(({ before, after }) => [before !== null, after !== null])).toEqual([
      [true, false],
      [true, true],
      [true, true],
      [false, true],
    ]);
    // What words don't tell is told all the same.
    expect(changes[1]!.same).toBe(false);
    const trial = treated();
    expect(stepChanges(trial, structuredClone(trial)).every(({ same }) => same)).toBe(true);
    expect(changes[2]).toMatchObject({ before: 'bicubic', after: 'lanczos-3' });
  });
});

describe('the file of a recipe', () => {
  const content = houseContent(treated(), zones, keeping);
  const reasonOf = (text: string) => {
    const read = readHouseFile(text);
    return read.ok ? null : read.reason;
  };

  it('is read as it was written', () => {
    const text = houseFile({ name: 'Walls', content });
    expect(readHouseFile(text)).toEqual({ ok: true, recipe: { name: 'Walls', content } });
  });

  it('may be that of a treatment too, without what was painted', () => {
    const { treatment, guards } = treated();
    const file = {
      form: 'treatment',
      version: RECIPE_VERSION,
      name: 'T',
      treatment,
      guards,
      zones,
    };
    const filed = zones.map((one) => ({
      ...one,
      painted: one.painted && { ...one.painted, bytes: 'H4sI' },
    }));
    const read = readHouseFile(JSON.stringify({ ...file, zones: filed }));
    expect(read.ok && read.recipe.content.treatment.map(({ kind }) => kind)).toEqual([
      ...['noise', 'enlarge', 'unsharp'],
    ]);
  });

  it('is refused in words where it is something else', () => {
    const file = JSON.parse(houseFile({ name: 'Walls', content })) as Record<string, unknown>;
    expect(reasonOf('{')).toBe('It is not JSON.');
    expect(reasonOf('[]')).toBe('It is neither a house recipe nor a treatment.');
    expect(reasonOf(JSON.stringify({ ...file, version: 99 }))).toContain('a later Lontano');
    expect(reasonOf(JSON.stringify({ ...file, treatment: [{ kind: 'gilding' }] }))).toContain(
      'gilding',
    );
    expect(reasonOf(JSON.stringify({ ...file, treatment: [] }))).toContain('one enlargement');
    expect(reasonOf(JSON.stringify({ ...file, name: '' }))).toContain('name');
    expect(reasonOf(JSON.stringify({ ...file, zones }))).toContain('painted');
  });
});

describe('recipes that ship', () => {
  it.each(startSet())('$name is whole, and prints a picture of its kind', ({ content }) => {
    expect(HouseContent.parse(content)).toEqual(content);
    const { kind } = content;
    const suited = testFindings({ width: 720, height: 480 }, { kind: kind! });
    const { work } = propose(suited, order);
    const trial = tryRecipe(work, work.trials[0]!, { id: 1, version: 1, name: 'S', content })!;
    const resolved = resolveRecipe(originalOf('b'.repeat(64), suited), work, trial, ALL_MODELS);
    expect(resolved.ok && resolved.recipe.steps.length).toBeGreaterThan(0);
  });

  it('are six, each known by a word of its own', () => {
    expect(new Set(startSet().map(({ key }) => key)).size).toBe(6);
  });
});

describe('the recipe that suits', () => {
  const evidence = { pictures: 0, changed: 0, approved: 0, sent: 0, lastUsed: null };
  const shipped = startSet().map((one) => ({ ...one, evidence }));
  const jpeg = {
    ...{ luma: tableAtQuality(STANDARD_LUMA, 40), chroma: tableAtQuality(STANDARD_CHROMA, 40) },
    ...{ samplingX: 2, samplingY: 2, progressive: false, quality: 40, gridX: 0, gridY: 0 },
  };
  const faded: typeof findings.tones = { black: [0.1, 0.1, 0.1], white: [0.8, 0.8, 0.8] };
  const suited = (
    found: Partial<typeof findings>,
    { material = null as string | null, recipes = shipped } = {},
  ) => {
    const of = testFindings({ width: 720, height: 480 }, found);
    return suitingRecipes({ findings: of, kind: of.kind, material }, recipes);
  };

  it('is for the kind of picture, and takes back what is found', () => {
    const [best] = suited({ kind: 'photograph', jpeg });
    expect(best!.recipe.key).toBe('web-photograph');
    expect(best!.reason).toBe('For photographs; it takes back what is found here: compression.');
    expect(suited({ kind: 'line art' })[0]!.recipe.key).toBe('line-drawing');
    expect(suited({ kind: 'flat artwork', jpeg })[0]!.recipe.key).toBe('logo-window');
    expect(suited({ kind: 'mixed' })).toEqual([]);
  });

  it('is for what it is printed on, before one for any', () => {
    const [best] = suited({ kind: 'photograph', jpeg }, { material: 'Canvas' });
    expect(best!.recipe.key).toBe('phone-canvas');
    const other = suited({ kind: 'photograph', jpeg }, { material: 'Mesh' });
    expect(other.map(({ recipe }) => recipe.key)).not.toContain('phone-canvas');
  });

  it('does nothing that there is no need of, and lets nothing stay', () => {
    const old = suited({ kind: 'photograph', jpeg, tones: faded });
    expect(old.map(({ recipe }) => recipe.key)).toEqual(['old-scan']);
    expect(suited({ kind: 'photograph', jpeg }).map(({ recipe }) => recipe.key)).not.toContain(
      'old-scan',
    );
  });

  it('says what it leaves, and takes no fringes where there are none', () => {
    const [left] = suited({ kind: 'photograph', jpeg, fringes: 9 });
    expect(left!.reason).toContain('It leaves fringes.');
    const [web] = shipped;
    const treatment = [newStep('fringes'), ...web!.content.treatment];
    const recipes = [web!, { ...web!, key: 'fringes', content: { ...web!.content, treatment } }];
    const keys = (fringes: number) =>
      suited({ kind: 'photograph', jpeg, fringes }, { recipes }).map(({ recipe }) => recipe.key);
    expect(keys(9)).toEqual(['fringes', 'web-photograph']);
    expect(keys(0)).toEqual(['web-photograph']);
  });

  it('is the one that served most, of equals', () => {
    const [web] = shipped;
    const recipes = [
      { ...web!, key: 'idle' },
      { ...web!, key: 'known', evidence: { ...evidence, pictures: 9, changed: 1 } },
      { ...web!, key: 'altered', evidence: { ...evidence, pictures: 12, changed: 11 } },
    ];
    const keys = suited({ kind: 'photograph', jpeg }, { recipes }).map(({ recipe }) => recipe.key);
    expect(keys).toEqual(['known', 'altered', 'idle']);
  });
});
