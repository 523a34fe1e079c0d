import { describe, expect, it } from 'vitest';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from '../inspect/jpeg-quality';
import { blockingWord, compressionWords, subsampling, type Findings } from '../inspect/findings';
import { ALL_MODELS } from '../learned/models';
import { testFindings, testHistory, testPaper } from '../testing';
import { CALIBRATIONS } from '../evidence/calibrations';
import { expectedOff } from '../evidence/invented';
import { newStep } from './order';
import { originalOf } from './original';
import { propose } from './propose';
import { resolveRecipe } from './resolve';
import { upscalingOf } from './views';
import { stepOf, type Work } from './work';

const paper = testPaper({ width: { value: 120, unit: 'cm' } });
const order = { paper, distance: 2 };
const blocking = (ratio: number) => ({ ratio, strength: 0, offsetX: 0, offsetY: 0 });

function found(quality: number | null, change: Partial<Findings> = {}): Findings {
  const at = quality ?? 50;
  return testFindings(
    { width: 720, height: 480 },
    {
      format: 'jpeg',
      jpeg: {
        luma: tableAtQuality(STANDARD_LUMA, at),
        chroma: tableAtQuality(STANDARD_CHROMA, at),
        samplingX: 2,
        samplingY: 2,
        progressive: false,
        quality,
        gridX: 0,
        gridY: 0,
      },
      blocking: blocking(1.6),
      ...change,
    },
  );
}

const trial = (findings: Findings) => propose(findings, order).work.trials[0]!;

describe('the proposed first trial', () => {
  it.each([25, 70, 96])(
    'of a JPEG at quality %i cleans all and leaves the method open',
    (quality) => {
      const { treatment } = trial(found(quality));
      expect(stepOf(treatment, 'compression')).toMatchObject({ on: true, strength: 100 });
      expect(stepOf(treatment, 'enlarge')).toMatchObject({ settings: { method: 'auto' } });
    },
  );

  it('sharpens half an original pixel as it lies on the paper, within bounds', () => {
    const radius = (width: number) =>
      stepOf(trial(found(25, { width })).treatment, 'unsharp')!.settings.radius;
    expect(radius(720)).toBeCloseTo(0.83, 2);
    expect(radius(1440)).toBeCloseTo(0.42, 2);
    expect(radius(20_000)).toBe(0.1);
  });

  it('takes blur back before enlarging, and says by how much', () => {
    const soft = { width: 4, sigma: 1.3, motion: null, disc: null };
    const { work, reasons } = propose(found(80, { blur: soft }), order);
    expect(stepOf(work.trials[0]!.treatment, 'deblur')).toMatchObject({ on: true, strength: 100 });
    expect(reasons.find(({ step }) => step === 'deblur')!.sentence).toMatch(/soft by 1.3 px/);
    const disc = { ...soft, disc: { radius: 3.2 } };
    const outOfFocus = propose(
      found(80, { blur: disc, history: testHistory({ blur: [1.4, 0.1] }) }),
      order,
    );
    expect(outOfFocus.reasons.find(({ step }) => step === 'deblur')!.sentence).toMatch(
      /disc of 3.2 px radius/,
    );
    expect(stepOf(outOfFocus.work.trials[0]!.treatment, 'restore')).toBeUndefined();
    const moved = { ...soft, motion: { length: 5, angle: 30 } };
    const [of] = propose(found(80, { blur: moved }), order).reasons.filter(
      ({ step }) => step === 'deblur',
    );
    expect(of!.sentence).toMatch(/moved by 5 px at 30°/);
    for (const change of [
      { blur: { ...soft, sigma: 0.2 } },
      { blur: soft, kind: 'line art' as const },
    ]) {
      expect(stepOf(trial(found(80, change)).treatment, 'deblur')).toBeUndefined();
    }
  });

  it('cleans a file that was saved twice by the coarser of both', () => {
    const history = testHistory({ sharpening: [60, 50] });
    const twice = found(90, { history, compressedBefore: { quality: 50, x: 5, y: 2 } });
    const { work, reasons } = propose(twice, order);
    expect(stepOf(work.trials[0]!.treatment, 'compression')).toMatchObject({ on: true });
    expect(reasons.find(({ step }) => step === 'compression')!.sentence).toMatch(/quality 50/);
    expect(originalOf('x', twice).blocks).toEqual({ quality: 50, x: 5, y: 2 });
    // What may have been counts where nothing else looks like it.
    const once = propose(found(90, { history }), order);
    expect(stepOf(once.work.trials[0]!.treatment, 'restore')).toBeDefined();
  });

  it('sharpens the less the more it was sharpened before', () => {
    const amount = (rims: number | null) => {
      const step = stepOf(trial(found(80, { rims })).treatment, 'unsharp')!;
      return step.on ? step.settings.amount : 0;
    };
    expect(amount(0.05)).toBe(amount(null));
    expect(amount(0.15)).toBeLessThan(amount(0.05));
    expect(amount(0.22)).toBeLessThan(amount(0.15));
    expect(amount(0.4)).toBe(0);
    const { reasons } = propose(found(80, { rims: 0.2 }), order);
    expect(reasons.find(({ step }) => step === 'unsharp')!.sentence).toMatch(
      /sharpened before: halos of 20 % lie along its edges/,
    );
  });

  it('holds rims to what is not seen from where the print is looked at', () => {
    const guards = (distance: number) =>
      propose(found(80), { paper, distance }).work.trials[0]!.guards;
    expect(guards(0.5)).toMatchObject({ limited: true, light: 4, dark: 4 });
    // From afar rims of that width run together with what is about them.
    expect(guards(60)).toMatchObject({ limited: true, light: 8, dark: 12 });
  });

  it('puts back what ink takes, where it takes detail', () => {
    const on = (material: string, width: number) => {
      const { work, reasons } = propose(found(90, { width }), { ...order, material });
      const { treatment } = work.trials[0]!;
      return {
        paper: stepOf(treatment, 'paper') !== undefined,
        amount: stepOf(treatment, 'unsharp')!.settings.amount,
        why: reasons.find(({ step }) => step === 'paper')?.sentence,
      };
    };
    expect(on('Canvas', 720).paper).toBe(false);
    expect(on('Gloss photo', 4800).paper).toBe(false);
    const canvas = on('Canvas', 4800);
    expect(canvas.why).toMatch(/On canvas ink spreads by 0.11 mm, 0.4 of an original pixel/);
    expect(canvas.amount).toBeLessThan(on('Gloss photo', 4800).amount);
  });

  it('cleans what is no JPEG only where a grid shows, and keeps 16 bits', () => {
    const png = { jpeg: null, format: 'png', bitDepth: 16 as const };
    const clean = trial(found(null, { ...png, blocking: blocking(1.01) }));
    expect(stepOf(clean.treatment, 'compression')).toMatchObject({ on: false });
    expect(clean.output.depth).toBe(16);
    const former = propose(found(null, { ...png, blocking: blocking(1.4) }), order);
    expect(stepOf(former.work.trials[0]!.treatment, 'compression')).toMatchObject({ on: true });
    expect(former.reasons[0]!.sentence).toMatch(/it was one before/);
    // Of a few letters on a small ground a grid may seem to show.
    const small = { ...png, width: 240, height: 120 };
    const letters = trial(found(null, { ...small, blocking: blocking(1.4) }));
    expect(stepOf(letters.treatment, 'compression')).toMatchObject({ on: false });
    const told = trial(found(null, { ...small, blocking: blocking(1.4), formerQuality: 60 }));
    expect(stepOf(told.treatment, 'compression')).toMatchObject({ on: true });
  });

  it.each<[string, Partial<Findings>, boolean, RegExp]>([
    ['pixel squares', { kind: 'pixel squares', jpeg: null }, false, /meant to be seen/],
    ['noise', { noise: { luma: 7, colour: 5 }, jpeg: null }, true, /Network for photographs/],
    ['line art', { kind: 'line art', jpeg: null }, true, /line art needs firm edges/],
    [
      'shapes',
      { vector: { widthPt: 90, heightPt: 60, pictures: [] }, jpeg: null },
      false,
      /from its shapes/,
    ],
  ])('of %s has its own reason and sharpening', (_, change, sharpens, reason) => {
    const { work, reasons } = propose(found(null, change), order);
    const { treatment } = work.trials[0]!;
    expect(stepOf(treatment, 'unsharp')!.on).toBe(sharpens);
    const ofEnlarging = reasons.find(({ step }) => step === 'enlarge')!;
    expect(ofEnlarging.sentence).toMatch(reason);
  });

  it('is planned for the page, the device and the transparency that it has', () => {
    const { work } = propose(found(80, { alpha: true }), {
      ...order,
      page: 3,
      ppi: 240,
      device: 'Flatbed, UV',
    });
    expect(work).toMatchObject({
      framing: { page: 3 },
      device: 'Flatbed, UV',
      trials: [{ ppi: 240, output: { alpha: 'keep' } }],
    });
  });

  it('stands ready even where the print cannot be made as ordered', () => {
    const impossible = { ...paper, width: { value: 900, unit: 'm' as const } };
    const { work, reasons } = propose(found(25), { ...order, paper: impossible });
    expect(work.paper).toEqual(impossible);
    expect(reasons).toHaveLength(3);
  });
});

describe('findings in words', () => {
  it('name compression, sampling and blocks as the trade does', () => {
    expect(compressionWords(found(25))).toBe('JPEG 25');
    expect(compressionWords(found(null))).toBe('JPEG, own tables');
    const twice = found(90, { compressedBefore: { quality: 50, x: 0, y: 0 } });
    expect(compressionWords(twice)).toBe('JPEG 90 (50 before)');
    expect(compressionWords(found(null, { jpeg: null, format: 'png' }))).toBe('PNG');
    expect(subsampling(found(25).jpeg!)).toBe('4:2:0');
    expect(subsampling({ ...found(25).jpeg!, samplingY: 1 })).toBe('4:2:2');
    expect(subsampling({ ...found(25).jpeg!, samplingX: 1, samplingY: 1 })).toBe('4:4:4');
    expect(subsampling({ ...found(25).jpeg!, chroma: null })).toBe('grey');
    const words = [1, 1.2, 1.5, 2.4].map((ratio) =>
      blockingWord(found(25, { blocking: blocking(ratio) })),
    );
    expect(words).toEqual(['no blocking', 'slight blocking', 'blocking', 'strong blocking']);
  });
});

describe('even ground', () => {
  const grounds = [[1, 1, 1]] as Findings['grounds'];

  it('is proposed for drawings on flat colours that were compressed, and for no others', () => {
    expect(
      stepOf(trial(found(70, { kind: 'line art', grounds })).treatment, 'ground'),
    ).toBeDefined();
    expect(stepOf(trial(found(70)).treatment, 'ground')).toBeUndefined();
    const never = { jpeg: null, formerQuality: null, grounds };
    expect(stepOf(trial(found(70, never)).treatment, 'ground')).toBeUndefined();
  });
});

describe('tones', () => {
  const proposedFor = (black: number[], white: number[]) => {
    const tones = { black, white } as Findings['tones'];
    return stepOf(trial(found(90, { tones })).treatment, 'tones');
  };

  it.each([
    ['a warm portrait', [0.02, 0.01, 0.0], [0.98, 0.85, 0.62]],
    ['a picture at night', [0.0, 0.0, 0.02], [0.7, 0.6, 0.55]],
    ['one low in contrast, of black that is black', [0.03, 0.03, 0.03], [0.75, 0.75, 0.75]],
    ['a bright one in mist', [0.4, 0.4, 0.42], [0.97, 0.97, 0.98]],
    ['a red desert', [0.24, 0.07, 0.0], [1, 0.95, 0.89]],
  ])('of %s are left as they are', (_, black, white) => {
    expect(proposedFor(black, white)).toBeUndefined();
  });

  it('are brought back where black and white are both gone, the colour of the light kept', () => {
    const step = proposedFor([0.14, 0.12, 0.1], [0.85, 0.84, 0.8])!;
    expect(step.settings).toMatchObject({ points: 100, cast: 0 });
  });

  it('and each by its own where colours have faded apart', () => {
    const step = proposedFor([0.28, 0.15, 0.1], [0.95, 0.88, 0.7])!;
    expect(step.settings).toMatchObject({ cast: 100 });
  });
});

describe('a picture with faces', () => {
  const face = { x: 100, y: 60, width: 80, height: 90, sure: 0.9 };
  const history = testHistory({ blur: [0.2, 0.1], noise: [5, 0.1], quality: [80, 0.1] });
  const of = (change: Partial<Findings> = {}, quality = 80) =>
    propose(found(quality, { faces: [face], history, ...change }), order);

  it('begins with a zone of them, in which what cleaning took is given back in part', () => {
    const { work, reasons } = of();
    expect(work.zones).toMatchObject([{ id: 'faces', name: 'Faces', parts: [{ kind: 'faces' }] }]);
    expect(stepOf(work.trials[0]!.treatment, 'texture')).toMatchObject({
      ...{ on: true, zone: 'faces', settings: { returned: 30, grain: 0 } },
    });
    expect(reasons.find(({ step }) => step === 'texture')!.sentence).toMatch(/^The face gets 30 %/);
    const original = originalOf('a'.repeat(64), found(80, { faces: [face], history }));
    const resolved = resolveRecipe(original, work, work.trials[0]!, ALL_MODELS);
    const step = resolved.ok && resolved.recipe.steps.find(({ kind }) => kind === 'texture');
    expect(step && step.zone!.parts).toEqual([
      {
        ...{ kind: 'faces', joining: 'add', inverted: false, grow: 1.2 },
        places: [{ x: 100 / 720, y: 60 / 480, width: 80 / 720, height: 90 / 480 }],
      },
    ]);
  });

  it('gets nothing back where it would be blocks, or where nothing was taken', () => {
    const texture = (work: Work) => stepOf(work.trials[0]!.treatment, 'texture');
    expect(texture(of({}, 40).work)).toBeUndefined();
    expect(texture(of({ history: null, noise: { luma: 0, colour: 0 } }).work)).toBeUndefined();
    expect(texture(of({ faces: [] }).work)).toBeUndefined();
    expect(of({ faces: [] }).work.zones).toEqual([]);
  });
});

describe('textures', () => {
  const crispOf = (found: Partial<Findings>) => {
    const { work, reasons } = propose(
      testFindings({ width: 800, height: 600 }, { textured: 0.4, ...found }),
      { paper: testPaper({ width: { value: 100, unit: 'cm' } }), distance: 2 },
    );
    const step = work.trials[0]!.treatment.find(({ kind }) => kind === 'crisp');
    return { step, sentence: reasons.find((reason) => reason.step === 'crisp')?.sentence };
  };

  it('are made crisper where a network would leave them smooth, and named as made up', () => {
    const { step, sentence } = crispOf({});
    expect(step).toMatchObject({ on: true, strength: 100 });
    expect(sentence).toMatch(/^40 % of it is texture/);
    expect(sentence).toMatch(/made up\.$/);
    const face = { x: 10, y: 10, width: 50, height: 60, sure: 0.9 };
    expect(crispOf({ faces: [face] }).step).toMatchObject({ zone: 'faces', elsewhere: true });
  });

  it('are left where there are few, where it is no photograph, noisy, or harshly compressed', () => {
    for (const found of [
      { textured: 0.2 },
      { kind: 'flat artwork' as const },
      { noise: { luma: 5, colour: 1 } },
      { formerQuality: 40 },
    ]) {
      expect(crispOf(found).step).toBeUndefined();
    }
  });
});

describe('a photograph with lettering in it', () => {
  it('has its lettering enlarged as a drawing, in a zone', () => {
    const { work, reasons } = propose(found(80, { kind: 'mixed' }), order);
    expect(work.zones).toMatchObject([
      { id: 'lettering', name: 'Lettering', parts: [{ kind: 'lettering' }] },
    ]);
    expect(stepOf(work.trials[0]!.treatment, 'enlarge')).toMatchObject({
      settings: { method: 'auto', parts: [{ zone: 'lettering', method: 'learned-art' }] },
    });
    expect(reasons.find(({ step }) => step === 'enlarge')!.sentence).toMatch(/lettering by the/);
    const original = originalOf('a'.repeat(64), found(80, { kind: 'mixed' }));
    const resolved = resolveRecipe(original, work, work.trials[0]!, ALL_MODELS);
    expect(resolved.ok && resolved.recipe.steps.map(({ kind }) => kind)).toContain('inset');
  });

  it.each(['photograph', 'flat artwork'] as const)('is not what a %s is', (kind) => {
    const { work } = propose(found(80, { kind }), order);
    expect(work.zones).toEqual([]);
    expect(stepOf(work.trials[0]!.treatment, 'enlarge')!.settings.parts).toEqual([]);
  });
});

describe('what may be invented after Restore', () => {
  const history = testHistory({ blur: [1, 0.1], noise: [6, 0.5] });
  const partsOf = (restored: boolean) => {
    const file = found(80, { history });
    const { work } = propose(file, order);
    const steps = [newStep(restored ? 'restore' : 'compression')];
    const treatment = [...steps, newStep('enlarge', { method: 'learned-photo' })];
    const trial = { ...work.trials[0]!, treatment };
    const resolved = resolveRecipe(originalOf('a'.repeat(64), file), work, trial, ALL_MODELS);
    if (!resolved.ok) throw new Error(resolved.reason);
    return upscalingOf(resolved.recipe)!;
  };

  it('is told by its own calibration, and the more the more was taken back', () => {
    const [after, plain] = [partsOf(true), partsOf(false)];
    expect(after.by).toBe(CALIBRATIONS.restored);
    expect(plain.by).toBe(CALIBRATIONS.photo);
    expect(after.severity).toBeCloseTo(plain.severity + 0.5 + 0.5, 6);
    const signs = { added: 2, edges: 8 };
    expect(expectedOff({ ...signs, severity: after.severity }, after.by)).toBeGreaterThan(
      1.3 * expectedOff({ ...signs, severity: plain.severity }, plain.by),
    );
  });
});
