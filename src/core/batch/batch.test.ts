import { describe, expect, it } from 'vitest';
import { startSet } from '../house/start-set';
import type { ListedHouse } from '../house/house-recipe';
import { ALL_MODELS } from '../learned/models';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import { propose } from '../recipe/propose';
import { branchTrial } from '../recipe/trials';
import { TRIALS, Work } from '../recipe/work';
import { Settings } from '../shop/settings';
import { testFindings, testPaper } from '../testing';
import type { ItemChange } from './batch';
import { itemFacts } from './item-facts';
import { planItem } from './plan-item';
import { paperBy, SizeRule, ruleWords } from './size-rule';

const cm = (value: number) => ({ value, unit: 'cm' as const });
const lying = { width: 600, height: 400 };
const standing = { width: 400, height: 600 };

const recipes = startSet().map(({ name, content }, i): ListedHouse => ({
  ...{ id: i + 1, version: 1, name, content, asShipped: true, at: 0, author: null },
  evidence: { pictures: 0, changed: 0, approved: 0, sent: 0, lastUsed: null },
}));
const fresh = (size = lying) => {
  const findings = testFindings(size);
  const { work } = propose(findings, { paper: testPaper({ width: cm(30) }), distance: 2 });
  return { known: { findings, takenOut: [] }, planned: { work, trial: 'a', own: true } };
};
const plan = ({ known, planned }: ReturnType<typeof fresh>, change: ItemChange) => {
  const outcome = planItem(known, planned, change, recipes);
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome;
};
const factsOf = (of: ReturnType<typeof fresh>, work: Work, trial: string) =>
  itemFacts({ digest: 'd', ...of.known, takenOut: [], work }, trial, ALL_MODELS, () => null);

describe('a rule for the size of many pictures', () => {
  it('is told to the millimetre, in whichever unit it was typed', () => {
    const m = (value: number) => ({ value, unit: 'm' as const });
    expect(ruleWords({ by: 'exact', width: m(1.255), height: m(0.835), fit: 'crop' })).toBe(
      '1.255 × 0.835 m',
    );
    expect(ruleWords({ by: 'width', length: m(1.255) })).toBe('1.255 m wide');
  });

  const pixels = (rule: SizeRule, size: { width: number; height: number }, ppi = 127) => {
    const findings = testFindings(size);
    const paper = paperBy(rule, testPaper({ width: cm(10) }), size);
    const { framing } = propose(findings, { paper, distance: 2 }).work;
    const planned = planOf(originalOf('', findings), { framing, paper }, ppi);
    if (!planned.ok) throw new Error(planned.reason);
    const { trim } = planned.plan;
    return [trim.width, trim.height];
  };

  it.each<[string, SizeRule, number[], number[]]>([
    // 127 ppi are 50 pixels a centimetre.
    ['as ordered', { by: 'ordered' }, [500, 333], [500, 750]],
    [
      '60 × 30 cm',
      { by: 'exact', width: cm(60), height: cm(30), fit: 'crop' },
      [3000, 1500],
      [1500, 3000],
    ],
    [
      '30 × 60 cm',
      { by: 'exact', width: cm(30), height: cm(60), fit: 'margin' },
      [3000, 1500],
      [1500, 3000],
    ],
    ['60 cm wide', { by: 'width', length: cm(60) }, [3000, 2000], [3000, 4500]],
    ['60 cm high', { by: 'height', length: cm(60) }, [4500, 3000], [2000, 3000]],
    ['60 cm along the longest side', { by: 'longest', length: cm(60) }, [3000, 2000], [2000, 3000]],
    ['4 times as many pixels', { by: 'factor', factor: 4 }, [2400, 1600], [1600, 2400]],
    [
      'A4',
      { by: 'sheet', sheet: { name: 'A4', width: 210, height: 297 }, fit: 'crop' },
      [1485, 1050],
      [1050, 1485],
    ],
    ['its own pixels at 127 ppi', { by: 'pixels', ppi: 127 }, [600, 400], [400, 600]],
  ])('“%s” comes to its pixels, whichever way pictures lie', (words, rule, flat, upright) => {
    expect(SizeRule.parse(rule)).toEqual(rule);
    expect(ruleWords(rule)).toBe(words);
    expect(pixels(rule, lying)).toEqual(flat);
    expect(pixels(rule, standing)).toEqual(upright);
  });

  it('says what becomes of other shapes, and leaves the rest of the paper as it was', () => {
    const before = { ...testPaper({ width: cm(10) }), colour: '#102030', safe: 4 };
    const after = paperBy(
      { by: 'exact', width: cm(3), height: cm(3), fit: 'margin' },
      before,
      lying,
    );
    expect(after).toMatchObject({ fit: 'margin', colour: '#102030', safe: 4 });
    expect(paperBy({ by: 'width', length: cm(3) }, { ...before, fit: 'stretch' }, lying).fit).toBe(
      'stretch',
    );
  });

  it('takes no lengths that are none on paper', () => {
    for (const unit of ['px', '%'] as const) {
      expect(SizeRule.safeParse({ by: 'width', length: { value: 3, unit } }).success).toBe(false);
    }
  });
});

describe('a picture planned in a batch', () => {
  it('that just came is treated in its first trial', () => {
    const of = fresh();
    const { work, trial, own } = plan(of, {
      size: { by: 'longest', length: cm(90) },
      steps: { by: 'house', id: recipes.find(({ name }) => name === 'Line drawing')!.id },
      ppi: 200,
      file: { format: 'jpeg', quality: 88 },
    });
    expect(Work.parse(work)).toEqual(work);
    expect([trial, own, work.trials.length]).toEqual(['a', true, 1]);
    expect(work.trials[0]).toMatchObject({
      name: 'Line drawing',
      ppi: 200,
      output: { format: 'jpeg', quality: 88 },
    });
    expect(work.paper.width).toEqual(cm(90));
  });

  it('that somebody worked on keeps its trial; the batch has one of its own, once', () => {
    const of = fresh();
    of.planned.own = false;
    const steps = { by: 'house', id: recipes[0]!.id } as const;
    const once = plan(of, { steps });
    expect(once.work.trials.map(({ id }) => id)).toEqual(['a', 'b']);
    expect(once.work.trials[0]).toEqual(of.planned.work.trials[0]);
    expect([once.trial, once.own]).toEqual(['b', true]);
    const twice = plan({ ...of, planned: once }, { steps: { by: 'proposed' } });
    expect(twice.work.trials.map(({ id, name }) => [id, name])).toEqual([
      ['a', 'Trial A'],
      ['b', 'As proposed'],
    ]);
    expect(twice.work.trials[1]!.house).toBeNull();
    // Its own trial was deleted meanwhile: what is left is somebody's.
    const left = { ...twice, work: { ...twice.work, trials: [twice.work.trials[0]!] } };
    const anew = plan({ ...of, planned: left }, { steps });
    expect(anew.work.trials.map(({ id }) => id)).toEqual(['a', 'c']);
  });

  it('by what suits it, or as is proposed where nothing does', () => {
    const photograph = fresh();
    const suited = plan(photograph, { steps: { by: 'suiting' } });
    expect(suited.work.trials[0]!.house).not.toBeNull();
    const strange = fresh();
    strange.planned.work.kind = 'mixed';
    const proposed = plan(strange, { steps: { by: 'suiting' } });
    expect(proposed.work.trials[0]).toMatchObject({ name: 'As proposed', house: null });
  });

  it('is left as it is where nothing is said, and refused in words', () => {
    const of = fresh();
    expect(
      plan(of, { steps: { by: 'kept' }, size: { by: 'ordered' }, ppi: null, file: null }).work,
    ).toEqual(of.planned.work);
    const refused = (change: ItemChange, planned = of.planned) => {
      const outcome = planItem(of.known, planned, change, recipes);
      return outcome.ok ? '' : outcome.reason;
    };
    expect(refused({ steps: { by: 'house', id: 999 } })).toMatch(/was deleted/);
    const full = structuredClone(of.planned);
    while (branchTrial(full.work, full.work.trials[0]!));
    expect(full.work.trials).toHaveLength(TRIALS);
    expect(refused({ steps: { by: 'proposed' } }, { ...full, own: false })).toMatch(
      /trials already/,
    );
  });
});

describe('what a batch’s table shows of a picture', () => {
  it('is what its trial comes to', () => {
    const of = fresh();
    const { work } = plan(of, {
      size: { by: 'factor', factor: 3 },
      file: { format: 'png', quality: 90 },
    });
    const facts = factsOf(of, work, 'a');
    expect(facts).toMatchObject({
      kind: 'photograph',
      trial: 'Trial A',
      file: { format: 'png' },
      trouble: null,
    });
    expect(facts.pixels).toEqual({ width: 1800, height: 1200 });
    expect(facts.cost!.seconds).toBeGreaterThan(0);
  });

  it('names its result by what that follows from alone', () => {
    const of = fresh();
    const made = (change: (work: Work) => void) => {
      const work = structuredClone(of.planned.work);
      change(work);
      return factsOf(of, work, 'a').made;
    };
    const before = made(() => {});
    expect(made((work) => (work.trials[0]!.name = 'Other'))).toBe(before);
    expect(made((work) => branchTrial(work, work.trials[0]!))).toBe(before);
    expect(made((work) => (work.trials[0]!.ppi += 1))).not.toBe(before);
    expect(made((work) => (work.paper.width = cm(31)))).not.toBe(before);
  });

  it('says why it can’t be made', () => {
    const of = fresh();
    of.planned.work.paper.width = cm(900_000);
    const facts = factsOf(of, of.planned.work, 'a');
    expect(facts.trouble).toMatch(/\w+/);
    expect([facts.pixels, facts.cost]).toEqual([null, null]);
  });
});

it('settings of a shop know parts that batches are named by', () => {
  expect(Settings.shape.fileNames.safeParse('{file}-{size}').success).toBe(true);
});
