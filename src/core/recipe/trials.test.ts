import { beforeEach, describe, expect, it } from 'vitest';
import { testFindings, testPaper } from '../testing';
import { propose } from './propose';
import { stepOf, Work } from './work';
import { branchTrial, removeTrial, trialId, trialOf } from './trials';
import { TRIALS } from './work';

const findings = testFindings({ width: 300, height: 200 });
let work: Work;
beforeEach(() => {
  ({ work } = propose(findings, { paper: testPaper(), distance: 2 }));
});

describe('trials', () => {
  it('branch: a copy of its own, named by the next letter, right behind', () => {
    const [first] = work.trials;
    const second = branchTrial(work, first!)!;
    branchTrial(work, first!, (trial) => {
      stepOf(trial.treatment, 'enlarge')!.settings.method = 'mitchell';
    });
    expect(work.trials.map(({ name }) => name)).toEqual(['Trial A', 'Trial C', 'Trial B']);
    expect(second.treatment).toEqual(first!.treatment);
    stepOf(second.treatment, 'enlarge')!.settings.method = 'nearest';
    const methods = work.trials.map((one) => stepOf(one.treatment, 'enlarge')!.settings.method);
    expect(methods).toEqual(['auto', 'mitchell', 'nearest']);
    expect(Work.safeParse(work).success).toBe(true);
  });

  it('have ids that are never given twice, and there is an end to how many there are', () => {
    for (let i = 1; i < TRIALS; i++) expect(branchTrial(work, work.trials[0]!)).not.toBeNull();
    expect(branchTrial(work, work.trials[0]!)).toBeNull();
    expect(removeTrial(work, 'c')).toBe(true);
    // What named the old C, such as an inset, doesn't name the new one.
    expect(branchTrial(work, work.trials[0]!)).toMatchObject({ id: 'aa', name: 'Trial AA' });
    expect(Work.safeParse(work).success).toBe(true);
  });

  it('are never all taken away', () => {
    expect(removeTrial(work, 'a')).toBe(false);
    branchTrial(work, work.trials[0]!);
    expect(removeTrial(work, 'z')).toBe(false);
    expect(removeTrial(work, 'a')).toBe(true);
    expect(work.trials.map(({ id }) => id)).toEqual(['b']);
  });

  it('go on from z to aa, and from az to ba', () => {
    expect([0, 25, 26, 51, 52, 701, 702].map(trialId)).toEqual([
      ...['a', 'z', 'aa', 'az', 'ba', 'zz', 'aaa'],
    ]);
  });

  it('are found by their ids, and the first stands in for one that is gone', () => {
    const second = branchTrial(work, work.trials[0]!)!;
    expect(trialOf(work, 'b')).toBe(second);
    expect(trialOf(work, 'x').id).toBe('a');
    expect(trialOf(work, null).id).toBe('a');
  });
});
