import { describe, expect, it } from 'vitest';
import { customerNote, verdict } from '../measure/verdict';
import { spotOn } from '../placed/place';
import { testPaper } from '../testing';
import { testPage } from '../testing/page';
import { costOf, treating } from '../render/cost';
import { canonicalJson, digestOfValue } from './canonical';
import { originalOf } from './original';
import { planFor } from './plan';
import { newStep } from './order';
import { propose, proposePlaced } from './propose';
import { branchTrial } from './trials';
import { Recipe } from './recipe';
import { resolveRecipe } from './resolve';
import { atScale, beforeEnlarging, classically, untreated, wholeFrame } from './views';
import { Work } from './work';

const order = { paper: testPaper({ width: { value: 60, unit: 'cm' } }), distance: 2 };
const { findings, taken } = testPage();
const original = originalOf('a'.repeat(64), findings, [taken]);

function resolved(change: (work: Work) => void = () => {}) {
  const { work } = structuredClone(propose(findings, order, [taken]));
  change(work);
  const result = resolveRecipe(original, work, work.trials[0]!);
  if (!result.ok) throw new Error(result.reason);
  return result.recipe;
}

const placedOf = (recipe: Recipe) => recipe.original.drawn!.placed;

describe('a page with a picture that was taken out', () => {
  it('is proposed with a treatment for it, and resolved with a recipe in its recipe', () => {
    const recipe = resolved();
    const [placed] = placedOf(recipe);
    const { drawn, width, height } = recipe.original;
    const spot = spotOn(placed!.place, original.size, drawn!, { width, height });
    expect(placed!.recipe.target).toMatchObject({ ...spot.pixels, ppi: recipe.target.ppi });
    expect(placed!.recipe.original).toMatchObject({ digest: taken.digest, width: 60, height: 40 });
    expect(Recipe.parse(JSON.parse(canonicalJson(recipe)))).toEqual(recipe);
    // A stretch of less than a pixel is no reason to cut anything away.
    const resampled = placed!.recipe.steps.find(({ kind }) => kind === 'resample');
    expect(resampled?.numbers).toMatchObject(spot.pixels);
  });

  it('is proposed for where nothing was decided yet, and nowhere else', () => {
    const { work } = structuredClone(propose(findings, order, [taken]));
    branchTrial(work, work.trials[0]!);
    work.trials[0]!.placed[0]!.treatment = [newStep('enlarge', { method: 'nearest' })];
    work.trials[1]!.placed = [];
    work.placed[0]!.kind = 'line art';
    const plan = planFor(original, work, work.trials[0]!);
    if (!plan.ok) throw new Error(plan.reason);
    proposePlaced(work, findings, taken, plan.plan);
    expect(work.trials[0]!.placed[0]!.treatment).toHaveLength(1);
    expect(work.trials[1]!.placed).toHaveLength(1);
    expect(work.placed).toEqual([expect.objectContaining({ kind: 'line art' })]);
  });

  it('has it at the pixels of each trial, turned and cropped as the page is', () => {
    const fine = resolved((work) => (work.trials[0]!.ppi = 320));
    const usual = resolved();
    const [a, b] = [placedOf(fine)[0]!.recipe.target, placedOf(usual)[0]!.recipe.target];
    expect(a.width / b.width).toBeCloseTo(2, 1);
    const turned = placedOf(resolved((work) => (work.framing.turn = 90)))[0]!.recipe.target;
    // On its side the page is printed smaller on the same width.
    expect(turned.width / b.width).toBeCloseTo(1.5, 1);
    const part = { x: 0, y: 0, width: 15_000, height: 20_000 };
    const cropped = placedOf(resolved((work) => (work.framing.crop = part)))[0]!.recipe.target;
    expect(cropped.width / b.width).toBeCloseTo(2, 1);
  });

  it('leaves it as it came where it is off, not decided, of another page, or beyond what is made', () => {
    const off = (change: (work: Work) => void) => placedOf(resolved(change)).length;
    expect(off((work) => (work.trials[0]!.placed[0]!.on = false))).toBe(0);
    expect(off((work) => (work.trials[0]!.placed = []))).toBe(0);
    expect(off((work) => (work.trials[0]!.placed[0]!.page = 2))).toBe(0);
    expect(off((work) => (work.trials[0]!.ppi = 1200))).toBe(0);
  });

  it('is put in several places only as far as all of it can be held there', () => {
    const often = testPage({ times: 3 });
    const page = originalOf('a'.repeat(64), often.findings, [often.taken]);
    const placedAt = (ppi: number) => {
      const { work } = propose(often.findings, order, [often.taken]);
      work.trials[0]!.ppi = ppi;
      const result = resolveRecipe(page, work, work.trials[0]!);
      return result.ok ? placedOf(result.recipe).length : null;
    };
    expect([placedAt(160), placedAt(520), placedAt(620)]).toEqual([1, 1, 0]);
  });

  it('is read from works of before there were any', () => {
    const { work } = structuredClone(propose(findings, order));
    const { placed: _, ...rest } = work;
    const older = { ...rest, trials: rest.trials.map(({ placed: __, ...trial }) => trial) };
    expect(Work.parse(older)).toEqual(work);
  });

  it('costs what treating it costs', () => {
    const plain = resolved((work) => (work.trials[0]!.placed = []));
    const recipe = resolved();
    expect(treating(plain)).toBe(0);
    expect(costOf(recipe).beginning - costOf(plain).beginning).toBeCloseTo(treating(recipe), 9);
    expect(treating(recipe)).toBeGreaterThan(0.1);
  });
});

describe('ways of looking at it', () => {
  const recipe = resolved();

  it('make it smaller as the page is', () => {
    const small = atScale(recipe, 0.25);
    const [whole, quarter] = [placedOf(recipe)[0]!, placedOf(small)[0]!];
    expect(quarter.recipe.target.width).toBe(Math.round(whole.recipe.target.width / 4));
    expect(quarter.place).toEqual(whole.place);
    expect(digestOfValue(placedOf(small))).not.toBe(digestOfValue(placedOf(recipe)));
  });

  it('estimate its networks as they do those of a picture alone', () => {
    const kinds = placedOf(classically(recipe))[0]!.recipe.steps.map(({ kind }) => kind);
    expect(kinds).not.toContain('upscale');
    expect(placedOf(recipe)[0]!.recipe.steps.map(({ kind }) => kind)).toContain('upscale');
  });

  it('show it as it came where the page is shown so', () => {
    expect(placedOf(untreated(recipe))).toEqual([]);
    expect(placedOf(beforeEnlarging(recipe, false))).toEqual([]);
    const frame = { width: 300, height: 200 };
    expect(placedOf(wholeFrame(recipe, original.size, frame))).toEqual([]);
  });
});

describe('what is said of the page', () => {
  const planned = (page: typeof findings, metres: number) => {
    const { work } = propose(page, { ...order, distance: metres });
    const plan = planFor(originalOf('', page), work, work.trials[0]!);
    if (!plan.ok) throw new Error(plan.reason);
    return { ...verdict(plan.plan, metres, page), plan: plan.plan };
  };

  it.each([
    [11, 'good', 'its pictures hold'],
    [6, 'good', 'enlarge its pictures'],
    [2, 'caution', 'its pictures stay soft'],
    [0.5, 'trouble', 'ask for larger pictures'],
  ])('from %d m on goes by the picture that carries least', (metres, tone, short) => {
    expect(planned(findings, metres)).toMatchObject({ tone, short });
    expect(planned(findings, metres).fact).toMatch(/resolution of number 1 is 8\.5 ppi/);
  });

  it('is nothing about signs among shapes, and pictures whose place is not known', () => {
    const sign = testPage({ widthPt: 9, heightPt: 6, place: [900, 0, 0, 600, 0, 0] });
    expect(planned(sign.findings, 1).short).toBe('drawn at any size');
    expect(planned(testPage({ place: null }).findings, 1).short).toBe('drawn at any size');
  });

  it('asks the customer for the page with its pictures in full size', () => {
    const { plan } = planned(findings, 1);
    const note = customerNote('banner.pdf', findings, plan, 1, findings);
    expect(note).toMatch(/a picture on it of 60 x 40 pixels/);
    expect(note).toMatch(/pictures in full size/);
    expect(customerNote('banner.pdf', findings, plan, 20, findings)).toBeNull();
  });
});
