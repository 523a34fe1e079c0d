import { describe, expect, it } from 'vitest';
import { testFindings, testRecipe } from '../testing';
import { costOf, secondsFor } from './cost';
import { newStep } from '../recipe/order';
import type { Treatment } from '../recipe/work';

const findings = testFindings({ width: 720, height: 480 });
const recipeOf = (centimetres: number, treatment: Treatment) =>
  testRecipe(findings, treatment, centimetres);
const plain = newStep('enlarge', { method: 'lanczos3' });

describe('what a run costs', () => {
  it('grows with the result, nearly in proportion', () => {
    const small = costOf(recipeOf(100, [plain])).result;
    const large = costOf(recipeOf(400, [plain])).result;
    expect(large / small).toBeGreaterThan(6);
    expect(large / small).toBeLessThan(16);
  });

  it('is more the more is done, and by dearer methods', () => {
    const of = (treatment: Treatment) => secondsFor(recipeOf(120, treatment), 1);
    const round = newStep('enlarge', { method: 'lanczos3-jinc' });
    expect(of([round])).toBeGreaterThan(of([plain]));
    expect(of([plain, newStep('unsharp')])).toBeGreaterThan(of([plain]));
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
      // What it is held to is enlarged too.
      for (const step of recipe.steps) {
        delete step.limit;
        if (step.kind === 'resample') step.numbers.straighten = 2;
      }
      return costOf(recipe).result;
    };
    const [two, four, six] = [slanted('bilinear'), slanted('bicubic'), slanted('lanczos3')];
    expect((six - four) / (four - two)).toBeCloseTo((6 * 6 - 4 * 4) / (4 * 4 - 2 * 2), 6);
  });

  it('of smoothing grows with the pixels it smooths over', () => {
    const without = costOf(recipeOf(120, [plain])).result;
    const smoothed = (radius: number) =>
      costOf(recipeOf(120, [plain, newStep('smooth', { radius })])).result - without;
    expect(smoothed(4) / smoothed(2)).toBeCloseTo((21 / 11) ** 2, 6);
  });

  it('of a network comes before the result, and does not depend on the paper', () => {
    const learned = newStep('enlarge', { method: 'learned-photo' });
    const { beginning } = costOf(recipeOf(100, [learned]));
    expect(beginning).toBeGreaterThan(1);
    expect(costOf(recipeOf(200, [learned])).beginning).toBe(beginning);
  });
});
