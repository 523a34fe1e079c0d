import { describe, expect, it } from 'vitest';
import { testFindings, testPaper } from '../testing';
import { newStep } from './order';
import { propose } from './propose';
import { stepOf, Trial } from './work';
import { MOST_VARIANTS, usualMethods, VARIED, variantsOf } from './variants';

const { work } = propose(testFindings({ width: 300, height: 200 }), {
  paper: testPaper(),
  distance: 2,
});
const trial = work.trials[0]!;

describe('variants of a trial', () => {
  it.each(VARIED)(
    'that differ in %s are whole trials, up to three, each with its words',
    (varied) => {
      const variants = variantsOf(trial, varied, [...usualMethods('photograph'), 'nearest']);
      expect(variants.length).toBeGreaterThan(1);
      expect(variants.length).toBeLessThanOrEqual(MOST_VARIANTS);
      const told = variants.map(({ label }) => label);
      expect(new Set(told).size).toBe(told.length);
      const texts = variants.map((variant) => JSON.stringify(Trial.parse(variant.trial)));
      expect(new Set(texts).size).toBe(texts.length);
    },
  );

  it('try tracing first on drawings, and never on a photograph', () => {
    expect(usualMethods('flat artwork')[0]).toBe('traced');
    expect(usualMethods('line art')).toHaveLength(MOST_VARIANTS);
    expect(usualMethods('photograph')).not.toContain('traced');
  });

  it('leave the trial itself alone', () => {
    const before = structuredClone(trial);
    variantsOf(trial, 'method', ['nearest'])[0]!.trial.treatment.pop();
    expect(trial).toEqual(before);
  });

  it('switch a step off where nothing of it is left', () => {
    const [off, , all] = variantsOf(trial, 'cleaning', []);
    expect(stepOf(off!.trial.treatment, 'compression')!.on).toBe(false);
    expect(stepOf(all!.trial.treatment, 'compression')).toMatchObject({ on: true, strength: 100 });
  });

  it('clean by what takes damage back at once, where there is such a step', () => {
    const restored = { ...trial, treatment: [newStep('restore'), newStep('enlarge')] };
    const found = variantsOf(restored, 'cleaning', []);
    expect(found.map(({ label }) => label)).toContain('Restored by 50 %');
    expect(stepOf(found[1]!.trial.treatment, 'restore')).toMatchObject({ on: true, strength: 50 });
    expect(stepOf(found[0]!.trial.treatment, 'restore')!.on).toBe(false);
  });

  it('are none where the trial has no such step', () => {
    const bare = { ...trial, treatment: [newStep('enlarge')] };
    expect(variantsOf(bare, 'cleaning', [])).toEqual([]);
    expect(variantsOf(bare, 'sharpening', [])).toEqual([]);
    expect(variantsOf(bare, 'ringing', [])).toHaveLength(3);
  });
});
