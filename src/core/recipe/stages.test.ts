import { describe, expect, it } from 'vitest';
import { newStep } from './order';
import { asFarAs, stagesOf } from './stages';
import type { Treatment } from './work';

const treatment: Treatment = [
  newStep('compression'),
  { ...newStep('noise'), on: false },
  newStep('enlarge'),
  newStep('unsharp'),
  { ...newStep('contrast'), strength: 0 },
  newStep('unsharp'),
  newStep('grain'),
];

describe('the picture after each step', () => {
  it('can be looked at after each that does something, but for the last', () => {
    expect(stagesOf(treatment)).toEqual([
      { index: 0, name: 'after JPEG clean-up' },
      { index: 2, name: 'after enlarging' },
      { index: 3, name: 'after unsharp mask' },
      { index: 5, name: 'after unsharp mask (2)' },
    ]);
    expect(stagesOf([newStep('enlarge')])).toEqual([]);
  });

  it('is that of the treatment as far as there, still enlarged', () => {
    const on = (index: number) => asFarAs(treatment, index).map((step) => step.on);
    expect(on(0)).toEqual([true, false, true, false, false, false, false]);
    expect(on(3)).toEqual([true, false, true, true, false, false, false]);
    expect(asFarAs(treatment, 6)).toEqual(treatment);
  });
});
