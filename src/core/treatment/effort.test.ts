import { describe, expect, it } from 'vitest';
import { estimate } from '../shop/lists';
import { testFindings, testPaper } from '../testing';
import { effortOf, paceKey, secondsFor } from './effort';
import { newStep } from './order';
import { propose } from './propose';
import type { SettledRecipe, Treatment } from './recipe';
import { settle } from './settle';
import { originalOf } from './source';

const findings = testFindings({ width: 720, height: 480 });
function recipeOf(centimetres: number, treatment: Treatment): SettledRecipe {
  const paper = testPaper({ width: { value: centimetres, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  work.trials[0]!.treatment = treatment;
  const settled = settle(originalOf('a', findings), work, work.trials[0]!);
  if (!settled.ok) throw new Error(settled.reason);
  return settled.recipe;
}
const plain = newStep('enlarge', { method: 'lanczos3' });

describe('what a run costs', () => {
  it('grows with the result, nearly in proportion', () => {
    const small = effortOf(recipeOf(100, [plain])).strips;
    const large = effortOf(recipeOf(400, [plain])).strips;
    expect(large / small).toBeGreaterThan(6);
    expect(large / small).toBeLessThan(16);
  });

  it('is more the more is done, and by dearer methods', () => {
    const of = (treatment: Treatment) => secondsFor(recipeOf(120, treatment), 1);
    const round = newStep('enlarge', { method: 'lanczos3-round' });
    expect(of([round])).toBeGreaterThan(of([plain]));
    expect(of([plain, newStep('sharpen')])).toBeGreaterThan(of([plain]));
    expect(of([newStep('banding'), plain])).toBeGreaterThan(of([plain]));
  });

  it('is more the more passes a stepped enlargement takes, and for the larger network', () => {
    const of = (treatment: Treatment) => secondsFor(recipeOf(120, treatment), 1);
    const stepped = [5, 10, 50].map((step) =>
      of([newStep('enlarge', { method: 'stepped', step })]),
    );
    expect([...stepped].sort((a, b) => b - a)).toEqual(stepped);
    const [photo, art] = (['learned-photo', 'learned-art'] as const).map((method) =>
      of([newStep('enlarge', { method })]),
    );
    expect(photo).toBeGreaterThan(art!);
  });

  it('of a slanted enlargement grows with the square of its kernel', () => {
    const slanted = (method: 'bilinear' | 'bicubic' | 'lanczos3') => {
      const recipe = recipeOf(120, [newStep('enlarge', { method })]);
      for (const step of recipe.steps) {
        if (step.kind === 'enlarge') step.numbers.straighten = 2;
      }
      return effortOf(recipe).strips;
    };
    const [two, four, six] = [slanted('bilinear'), slanted('bicubic'), slanted('lanczos3')];
    expect((six - four) / (four - two)).toBeCloseTo((6 * 6 - 4 * 4) / (4 * 4 - 2 * 2), 6);
  });

  it('of smoothing grows with the pixels it smooths over', () => {
    const without = effortOf(recipeOf(120, [plain])).strips;
    const smoothed = (radius: number) =>
      effortOf(recipeOf(120, [plain, newStep('smooth', { radius })])).strips - without;
    expect(smoothed(4) / smoothed(2)).toBeCloseTo((21 / 11) ** 2, 6);
  });

  it('of a network comes before the strips, and does not depend on the paper', () => {
    const learned = newStep('enlarge', { method: 'learned-photo' });
    const { beginning } = effortOf(recipeOf(100, [learned]));
    expect(beginning).toBeGreaterThan(1);
    expect(effortOf(recipeOf(200, [learned])).beginning).toBe(beginning);
  });

  it('is estimated by the pace of runs that are alike, else by that of all', () => {
    const recipe = recipeOf(120, [plain]);
    expect(paceKey(recipe)).toBe('lanczos3');
    expect(paceKey(recipeOf(120, [newStep('enlarge', { method: 'learned-art' })]))).toBe('learned');
    const seconds = secondsFor(recipe, 1);
    const pace = { overall: 2, ways: { learned: 0.5 }, measured: true };
    expect(estimate(recipe, pace)).toBeCloseTo(seconds / 2, 9);
    const known = { ...pace, ways: { lanczos3: 4 } };
    expect(estimate(recipe, known)).toBeCloseTo(seconds / 4, 9);
  });
});
