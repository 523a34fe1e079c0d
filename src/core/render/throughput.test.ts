import { describe, expect, it } from 'vitest';
import { newStep } from '../recipe/order';
import type { Recipe } from '../recipe/recipe';
import type { Treatment } from '../recipe/work';
import { testFindings, testRecipe } from '../testing';
import { secondsFor } from './cost';
import { estimate, runCost, throughputOf } from './throughput';

const findings = testFindings({ width: 720, height: 480 });
const recipeOf = (treatment: Treatment, centimetres?: number) =>
  testRecipe(findings, treatment, centimetres);
const plain = newStep('enlarge', { method: 'lanczos3' });
const recipe = recipeOf([plain]);
const sharpened = recipeOf([plain, newStep('unsharp')]);
const learned = recipeOf([newStep('enlarge', { method: 'learned-art' })]);

/** Runs that took so many times what they take on the machine of reference. */
const runs = (of: Recipe, ...times: number[]) =>
  times.map((time) => ({ cost: runCost(of), seconds: time * secondsFor(of, 1) }));

describe('how long a run will take', () => {
  it('is guessed widely before the first one', () => {
    const { least, likely, most } = estimate(recipe, throughputOf([]));
    expect(likely).toBeCloseTo(secondsFor(recipe, 1), 9);
    expect(most / least).toBeGreaterThan(3);
  });

  it('is learnt from the last runs of its kind: the usual one, and as they differ', () => {
    const known = throughputOf(runs(recipe, 2, 5, 2.2, 1.9, 2.1, 90));
    const { least, likely, most } = estimate(recipe, known);
    const seconds = secondsFor(recipe, 1);
    expect(likely).toBeCloseTo(2.1 * seconds, 6);
    expect(least).toBeLessThan(1.9 * seconds);
    expect(most).toBeGreaterThan(5 * seconds);
    // What was longer ago counts no more.
    expect(most).toBeLessThan(10 * seconds);
  });

  it('becomes narrower the more is known', () => {
    const spread = (...times: number[]) => {
      const { least, most } = estimate(recipe, throughputOf(runs(recipe, ...times)));
      return most / least;
    };
    expect(spread(2)).toBeGreaterThan(spread(2, 2));
    expect(spread(2, 2)).toBeGreaterThan(spread(2, 2, 2));
    expect(spread(2, 2, 2, 2, 2)).toBeLessThan(1.5);
  });

  it('is told by runs of another kind where there are none of its own, and less surely', () => {
    const known = throughputOf([...runs(sharpened, 4, 4, 4), ...runs(learned, 0.5, 0.5, 0.5)]);
    const own = estimate(sharpened, known);
    const alike = estimate(recipe, known);
    expect(alike.likely / secondsFor(recipe, 1)).toBeCloseTo(4, 6);
    expect(alike.most / alike.least).toBeGreaterThan(own.most / own.least);
    const other = estimate(recipeOf([newStep('enlarge', { method: 'lanczos3-jinc' })]), known);
    expect(other.most).toBeGreaterThan(other.least);
  });

  it('goes with what is asked for', () => {
    const known = throughputOf(runs(recipe, 2, 2, 2));
    const larger = recipeOf([plain], 240);
    expect(estimate(larger, known).likely).toBeCloseTo(2 * secondsFor(larger, 1), 6);
  });
});
