import { describe, expect, it } from 'vitest';
import { testFindings, testRecipe } from '../testing';
import { asLayer, blurredBy, finishes, soloed, upTo, withoutFinish } from './finish';
import { newStep } from './order';
import type { Treatment } from './work';

const treatment: Treatment = [
  newStep('noise'),
  newStep('enlarge'),
  { ...newStep('unsharp'), strength: 40 },
  { ...newStep('contrast'), on: false },
  { ...newStep('grain'), strength: 0 },
];
const [, , UNSHARP, CONTRAST, GRAIN] = [0, 1, 2, 3, 4] as const;
const on = (changed: Treatment) => changed.map((step) => step.on);
const strengths = (changed: Treatment) => changed.map(({ strength }) => strength);
const findings = testFindings({ width: 120, height: 80 });

describe('looking at what is done at the print’s size', () => {
  it('without it leaves what is done before, and the enlargement', () => {
    expect(on(withoutFinish(treatment))).toEqual([true, true, false, false, false]);
  });

  it('one step alone is on, as strong as it is, or wholly where it is set to nothing', () => {
    expect(on(soloed(treatment, CONTRAST))).toEqual([true, true, false, true, false]);
    expect(strengths(soloed(treatment, UNSHARP))[UNSHARP]).toBe(40);
    expect(strengths(soloed(treatment, GRAIN))[GRAIN]).toBe(100);
  });

  it('as far as a step shows that one wholly and everywhere, and nothing after it', () => {
    const zoned = treatment.map((step, i) => (i === UNSHARP ? { ...step, zone: 'z' } : step));
    const shown = upTo(zoned, UNSHARP);
    expect(on(shown)).toEqual([true, true, true, false, false]);
    expect(shown[UNSHARP]).toMatchObject({ strength: 100, zone: undefined });
    expect(on(upTo(treatment, GRAIN))).toEqual([true, true, true, false, true]);
  });

  it('changes nothing of the treatment itself', () => {
    const before = structuredClone(treatment);
    for (const look of [
      withoutFinish,
      (t: Treatment) => soloed(t, 2),
      (t: Treatment) => upTo(t, 3),
    ])
      look(treatment);
    expect(treatment).toEqual(before);
  });
});

describe('a recipe that is looked at', () => {
  const recipe = testRecipe(findings, treatment);
  const kinds = ({ steps }: { steps: readonly { kind: string }[] }) =>
    steps.map(({ kind }) => kind);

  it('as the layer of its last step ends in greys, at full strength', () => {
    const layered = testRecipe(findings, [
      ...withoutFinish(treatment),
      { ...newStep('highpass'), strength: 40 },
    ]);
    const layer = asLayer(layered)!;
    expect(kinds(layer)).toEqual([...kinds(layered), 'greys']);
    expect(layer.steps.at(-2)).toMatchObject({ kind: 'highpass', strength: 100 });
    expect(layer.target).toEqual(layered.target);
  });

  it('has no layer where its last step lays nothing over the picture', () => {
    for (const last of [UNSHARP, GRAIN])
      expect(asLayer(testRecipe(findings, upTo(treatment, last)))).toBeNull();
    expect(asLayer(testRecipe(findings, withoutFinish(treatment)))).toBeNull();
  });

  it('from afar is blurred last, but for the sheet about it, and never beyond what a blur may be', () => {
    expect(kinds(blurredBy(recipe, 3))).toEqual([...kinds(recipe), 'spread']);
    const far = blurredBy(recipe, 5000).steps.at(-1)!;
    expect(far).toMatchObject({ kind: 'spread', numbers: { radius: 200 } });
  });

  it('tells whether anything is done at the print’s size', () => {
    expect(finishes(recipe)).toBe(true);
    expect(finishes(testRecipe(findings, withoutFinish(treatment)))).toBe(false);
  });
});
