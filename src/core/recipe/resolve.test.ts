import { describe, expect, it } from 'vitest';
import { cut, emptyRaster, paste } from '../raster/raster';
import { cells, strips, whole } from '../raster/region';
import { toSamples } from '../raster/samples';
import { tableAtQuality, STANDARD_CHROMA, STANDARD_LUMA } from '../inspect/jpeg-quality';
import { NO_MODELS } from '../learned/models';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { Kept } from '../render/kept';
import { propose } from './propose';
import { canonicalJson } from './canonical';
import { Recipe } from './recipe';
import { stepOf, Treatment, Work } from './work';
import { render } from '../render/render';
import { originalOf } from './original';
import { atScale, beforeEnlarging, fromHalved, untreated } from './views';
import { resolveRecipe } from './resolve';
import { RGB, RGBA } from '../raster/form';

const size = { width: 96, height: 64 };
const picture = testPicture(size);
const jpeg = {
  luma: tableAtQuality(STANDARD_LUMA, 25),
  chroma: tableAtQuality(STANDARD_CHROMA, 25),
  samplingX: 2,
  samplingY: 2,
  progressive: false,
  quality: 25,
  gridX: 0,
  gridY: 0,
};
const findings = testFindings(size, {
  format: 'jpeg',
  jpeg,
  blocking: { ratio: 1.6, strength: 34, offsetX: 0, offsetY: 0 },
});
const original = originalOf('d'.repeat(64), findings);
const paper = testPaper({ width: { value: 6, unit: 'cm' } });
const order = { paper, distance: 2 };

function resolved(change: (work: Work) => void = () => {}) {
  const { work } = structuredClone(propose(findings, order));
  change(work);
  const result = resolveRecipe(original, work, work.trials[0]!, NO_MODELS);
  if (!result.ok) throw new Error(result.reason);
  return result.recipe;
}

describe('a resolved recipe', () => {
  it('holds numbers alone, and says the same in the same words', () => {
    const recipe = resolved();
    expect(Recipe.parse(JSON.parse(canonicalJson(recipe)))).toEqual(recipe);
    expect(canonicalJson(resolved())).toBe(canonicalJson(recipe));
    expect(recipe.target).toMatchObject({ width: 378, height: 252, ppi: 160 });
  });

  it('leaves out what is off, at strength 0, or has nothing to do', () => {
    const kinds = (change: (work: Work) => void) => resolved(change).steps.map((step) => step.kind);
    expect(kinds(() => {})).toEqual(['compression', 'resample', 'unsharp']);
    expect(
      kinds((work) => {
        stepOf(work.trials[0]!.treatment, 'compression')!.strength = 0;
        stepOf(work.trials[0]!.treatment, 'unsharp')!.on = false;
      }),
    ).toEqual(['resample']);
  });

  it('can be had small, untreated, and before its enlargement', () => {
    const recipe = resolved();
    const small = atScale(recipe, 0.25);
    expect(small.target).toMatchObject({ width: 95, height: 63 });
    const far = fromHalved(small, 2);
    expect(far.original).toMatchObject({ width: 24, height: 16 });
    expect(far.steps).toMatchObject([
      { kind: 'resample', numbers: { source: { width: 24, height: 16 }, width: 95, height: 63 } },
      { kind: 'unsharp' },
    ]);
    expect(fromHalved(small, 0)).toBe(small);
    expect(untreated(recipe).steps).toMatchObject([
      { kind: 'resample', numbers: { method: 'nearest' } },
    ]);
    expect(beforeEnlarging(recipe)).toMatchObject({
      target: size,
      steps: [{ kind: 'compression' }],
    });
  });
});

describe('a sheet', () => {
  const square = {
    width: { value: 6, unit: 'cm' as const },
    height: { value: 6, unit: 'cm' as const },
  };
  const mountOf = (change: (work: Work) => void) => {
    const step = resolved(change).steps.find(({ kind }) => kind === 'mount');
    return step?.kind === 'mount' ? step.numbers : null;
  };

  it('is mounted only where the picture does not fill it', () => {
    expect(mountOf(() => {})).toBeNull();
    expect(mountOf((work) => Object.assign(work.paper, square))).toBeNull();
    const margins = mountOf((work) => Object.assign(work.paper, square, { fit: 'margin' }));
    expect(margins).toMatchObject({
      width: 378,
      height: 378,
      x: 0,
      top: 'colour',
      bottom: 'colour',
    });
    expect(margins!.y).toBeGreaterThan(50);
  });

  it('has bleed as chosen, and colour where a margin meets it', () => {
    const bled = mountOf((work) => {
      Object.assign(work.paper, square, { fit: 'margin', bleed: { mm: 5, fill: 'rim' } });
    });
    expect(bled).toMatchObject({ width: 440, left: 'clamp', right: 'clamp', top: 'colour' });
    const mirrored = mountOf((work) => (work.paper.bleed = { mm: 5, fill: 'picture' }));
    expect(mirrored).toMatchObject({ left: 'mirror', top: 'mirror', x: 31, y: 31 });
  });

  it('is rendered small as it is rendered large', () => {
    const recipe = resolved((work) => (work.paper.bleed = { mm: 5, fill: 'mirror' }));
    expect(atScale(recipe, 0.5).target).toMatchObject({ width: 220, height: 157 });
  });
});

describe('what becomes of pixels', () => {
  const clear = { ...original, alpha: true };
  const alphaWith = (format: 'tiff' | 'jpeg', alpha: 'keep' | 'paper') => {
    const { work } = structuredClone(propose(findings, order));
    Object.assign(work.trials[0]!.output, { format, alpha });
    const result = resolveRecipe(clear, work, work.trials[0]!);
    return result.ok && result.recipe.alpha;
  };

  it('transparency is kept where it is wanted and the format holds it', () => {
    expect(alphaWith('tiff', 'keep')).toBe('kept');
    expect(alphaWith('tiff', 'paper')).toBe('laid');
    expect(alphaWith('jpeg', 'keep')).toBe('laid');
    expect(resolved().alpha).toBe('none');
  });

  it('transparent parts are laid on the paper’s colour before anything else', async () => {
    const seen = emptyRaster(size.width, size.height, RGBA);
    seen.planes[3]!.fill(0.5);
    const recipe = { ...resolved(), alpha: 'laid' as const, colour: '#ff0000', steps: [] };
    const { planes } = await render(memorySource(seen), recipe).read(whole(size));
    expect(planes).toHaveLength(3);
    expect(planes[0]![7]).toBeCloseTo(0.5, 6);
    expect(planes[1]![7]).toBe(0);
  });

  it('where only the size tag is set, every pixel stays and the tag fits the paper', async () => {
    const recipe = resolved((work) => (work.trials[0]!.pixels = 'kept'));
    expect(recipe.target).toMatchObject(size);
    expect(recipe.target.ppi).toBeCloseTo(96 / (6 / 2.54), 6);
    const kept = await render(memorySource(picture), recipe).read(whole(size));
    expect(toSamples(kept, 16)).toEqual(toSamples(picture, 16));
    const { work } = structuredClone(propose(findings, order));
    work.paper.width = { value: 60, unit: 'm' };
    Object.assign(work.trials[0]!, { pixels: 'kept', ppi: 2 });
    const refused = resolveRecipe(original, work, work.trials[0]!);
    expect(refused.ok ? '' : refused.reason).toMatch(/no tag says/);
    const cropped = resolved((made) => {
      made.trials[0]!.pixels = 'kept';
      Object.assign(made.paper, { height: { value: 4.37, unit: 'cm' } });
    });
    // Whole pixels, each taken once.
    expect(cropped.steps).toMatchObject([
      { kind: 'resample', numbers: { source: { width: 88, height: 64 }, width: 88, height: 64 } },
    ]);
    const [step] = cropped.steps;
    expect(step?.kind === 'resample' && step.numbers.source.x % 1).toBe(0);
    for (const change of [
      (made: Work) =>
        void Object.assign(made.paper, { height: { value: 6, unit: 'cm' }, fit: 'stretch' }),
      (made: Work) => void (made.framing.straighten = 2),
    ]) {
      expect(() =>
        resolved((made) => {
          made.trials[0]!.pixels = 'kept';
          change(made);
        }),
      ).toThrow(/needs new pixels/);
    }
  });

  it('a picture that was turned, straightened and cropped is cleaned on its own grid first', () => {
    const recipe = resolved((work) => {
      work.framing.turn = 90;
      work.framing.straighten = 3;
      work.framing.crop = { x: 4, y: 6, width: 40, height: 50 };
    });
    expect(recipe.steps.map((step) => step.kind)).toEqual(['compression', 'resample', 'unsharp']);
    expect(recipe.steps[1]).toMatchObject({ numbers: { turn: 90, straighten: 3 } });
    const before = beforeEnlarging(recipe);
    expect(before.target).toMatchObject({ width: 64, height: 96 });
    expect(beforeEnlarging(recipe, false).steps.map((step) => step.kind)).toEqual(['resample']);
  });

  it('repeated pixels are taken back first, and nothing of them is cleaned', () => {
    const recipe = resolved((work) => (work.framing.grid = { width: 24, height: 16 }));
    expect(recipe.steps.map((step) => step.kind)).toEqual(['regrid', 'resample', 'unsharp']);
    expect(recipe.steps[1]).toMatchObject({ numbers: { source: { width: 24, height: 16 } } });
    expect(fromHalved(atScale(recipe, 0.1), 1).steps[0]).toMatchObject({
      numbers: { source: { width: 48, height: 32 } },
    });
  });

  it('shapes are drawn at the size that is wanted, also small', () => {
    const { work } = structuredClone(propose(findings, order));
    const shapes = { ...original, vector: true };
    const result = resolveRecipe(shapes, work, work.trials[0]!);
    if (!result.ok) throw new Error(result.reason);
    const { recipe } = result;
    expect(recipe.original).toMatchObject({ width: 378, height: 252, drawn: { turn: 0 } });
    expect(recipe.steps.map((step) => step.kind)).toEqual(['unsharp']);
    expect(atScale(recipe, 0.5).original).toMatchObject({ width: 189, height: 126 });
    expect(fromHalved(recipe, 2)).toBe(recipe);
  });
});

describe('a treatment', () => {
  it('stands in the order of the work, with one enlargement', () => {
    const [clean, enlarge, sharpen] = propose(findings, order).work.trials[0]!.treatment as [
      Treatment[number],
      Treatment[number],
      Treatment[number],
    ];
    expect(Treatment.safeParse([clean, clean, enlarge, sharpen]).success).toBe(true);
    expect(Treatment.safeParse([enlarge, clean]).success).toBe(false);
    expect(Treatment.safeParse([sharpen, enlarge]).success).toBe(false);
    expect(Treatment.safeParse([clean]).success).toBe(false);
    expect(Treatment.safeParse([enlarge, enlarge]).success).toBe(false);
    expect(Treatment.safeParse([{ ...clean, strength: 101 }, enlarge]).success).toBe(false);
  });

  it('is proposed with a reason for every step', () => {
    const { work, reasons } = propose(findings, order);
    expect(Work.parse(work)).toEqual(work);
    expect(reasons.map((reason) => reason.step)).toEqual(['compression', 'enlarge', 'unsharp']);
    expect(stepOf(work.trials[0]!.treatment, 'compression')).toMatchObject({
      on: true,
      strength: 100,
    });
    const untouched = propose(testFindings(size), order);
    expect(stepOf(untouched.work.trials[0]!.treatment, 'compression')).toMatchObject({ on: false });
    expect(stepOf(untouched.work.trials[0]!.treatment, 'enlarge')!.settings.method).toBe('auto');
  });
});

describe('rendering', () => {
  const recipe = resolved((work) => {
    stepOf(work.trials[0]!.treatment, 'compression')!.strength = 70;
    stepOf(work.trials[0]!.treatment, 'unsharp')!.strength = 55;
  });
  const source = memorySource(picture);

  it('gives the same bytes whole, in strips, in cells, and with or without keeping', async () => {
    const plain = render(source, recipe);
    const all = toSamples(await plain.read(whole(plain.size)), 8);
    const store = new Kept(1 << 22);
    for (const parts of [
      strips(plain.size, 37),
      cells(whole(plain.size), 50, plain.size),
      cells(whole(plain.size), 50, plain.size),
    ]) {
      const put = emptyRaster(plain.size.width, plain.size.height, RGB);
      for (const part of parts) {
        const raster = await render(source, recipe, { store }).read(part);
        paste({ region: part, raster }, { region: whole(plain.size), raster: put });
      }
      expect(Buffer.compare(toSamples(put, 8), all)).toBe(0);
    }
  });

  it('is the picture itself where nothing is done', async () => {
    const nothing = { ...recipe, steps: [] };
    const region = { x: 5, y: 9, width: 20, height: 11 };
    const got = await render(source, nothing).read(region);
    expect(got).toEqual(cut({ region: whole(size), raster: picture }, region));
  });

  it('lies between the picture and the whole treatment, by its strength', async () => {
    const at = async (strength: number) => {
      const only = {
        ...recipe,
        steps: recipe.steps.flatMap((step) =>
          step.kind === 'compression' ? [{ ...step, strength }] : [],
        ),
      };
      return (await render(source, only).read(whole(size))).planes[0]!;
    };
    const [full, part] = [await at(100), await at(40)];
    part.forEach((value, i) => {
      const before = picture.planes[0]![i]!;
      expect(value).toBeCloseTo(before + 0.4 * (full[i]! - before), 5);
    });
  });

  it('refuses regions that are empty or leave the picture', async () => {
    const { read } = render(source, recipe);
    await expect(read({ x: 0, y: 0, width: 0, height: 4 })).rejects.toThrow(RangeError);
    await expect(read({ x: 370, y: 0, width: 20, height: 4 })).rejects.toThrow(RangeError);
    await expect(read({ x: -1, y: 0, width: 5, height: 4 })).rejects.toThrow(RangeError);
  });
});
