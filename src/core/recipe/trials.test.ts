import { beforeEach, describe, expect, it } from 'vitest';
import { testFindings, testPaper } from '../testing';
import { propose } from './propose';
import { stepOf, Work } from './work';
import { branchTrial, removeTrial, trialOf, TRIALS } from './trials';

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

  it('give their letters back, and there is an end to them', () => {
    for (let i = 1; i < TRIALS; i++) expect(branchTrial(work, work.trials[0]!)).not.toBeNull();
    expect(branchTrial(work, work.trials[0]!)).toBeNull();
    expect(removeTrial(work, 'c')).toBe(true);
    expect(branchTrial(work, work.trials[0]!)!.id).toBe('c');
    expect(Work.safeParse(work).success).toBe(true);
  });

  it('are never all taken away', () => {
    expect(removeTrial(work, 'a')).toBe(false);
    branchTrial(work, work.trials[0]!);
    expect(removeTrial(work, 'z')).toBe(false);
    expect(removeTrial(work, 'a')).toBe(true);
    expect(work.trials.map(({ id }) => id)).toEqual(['b']);
  });

  it('are found by their ids, and the first stands in for one that is gone', () => {
    const second = branchTrial(work, work.trials[0]!)!;
    expect(trialOf(work, 'b')).toBe(second);
    expect(trialOf(work, 'x').id).toBe('a');
    expect(trialOf(work, null).id).toBe('a');
  });
});
