import { describe, expect, it } from 'vitest';
import { ALL_MODELS } from '@/core/learned/models';
import type { Findings } from '@/core/inspect/findings';
import { originalOf } from '@/core/recipe/original';
import { propose } from '@/core/recipe/propose';
import { resolveRecipe } from '@/core/recipe/resolve';
import { testFindings, testPaper } from '@/core/testing';
import type { WorkBench } from '../use-work';
import { SECTION_NAMES } from './open';
import { whyOf } from './why';

/** What the words look at of a bench with a picture of 600 x 400 pixels on it, printed so wide. */
function bench(centimetres: number, found: Partial<Findings> = {}): WorkBench {
  const findings = testFindings({ width: 600, height: 400 }, found);
  const paper = testPaper({ width: { value: centimetres, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  const trial = { ...work.trials[0]!, ppi: 100 };
  const resolved = resolveRecipe(originalOf('d', findings), work, trial, ALL_MODELS);
  return { found: findings, work, trial, resolved } as WorkBench;
}
const here = (section: (typeof SECTION_NAMES)[number], of: WorkBench) => whyOf(section, of).here;

describe('why there is a section', () => {
  it('is said of each: what it is for, when it is left alone, and a figure of this picture', () => {
    for (const name of SECTION_NAMES) {
      const why = whyOf(name, bench(120));
      expect(why.purpose, name).toMatch(/\.$/);
      expect(why.leave, name).toMatch(/\.$/);
      expect(why.here, name).toMatch(/\d.*\.$|^Nothing that is worth/);
    }
  });

  it('has figures that follow the print', () => {
    // 600 pixels over 120 cm and 60 cm.
    expect(here('size', bench(120))).toMatch(/^12\.7|^13 ppi before enlarging/);
    expect(here('enlarge', bench(120))).toContain('98 are new');
    expect(here('finish', bench(120))).toContain('One original pixel is 2 mm wide');
    expect(here('finish', bench(60))).toContain('One original pixel is 1 mm wide');
    expect(here('output', bench(60))).toContain('2362 × 1575 pixels');
  });

  it('never sees more of a result than there is', () => {
    expect(here('compare', bench(5))).toContain('At 1:1 100 %');
    const share = Number(/At 1:1 ([\d.]+) %/.exec(here('compare', bench(120))!)![1]);
    expect(share).toBeCloseTo((100 * 1280 * 800) / (4724 * 3150), 1);
  });

  it('says of shapes what can be said of shapes', () => {
    const shapes = bench(60, {
      vector: { widthPt: 170, heightPt: 113, pictures: [] },
      detail: null,
    });
    expect(
      ['original', 'size', 'clean', 'enlarge', 'finish'].map((name) => here(name as never, shapes)),
    ).toEqual([null, null, null, null, null]);
    expect(here('output', shapes)).toContain('pixels');
  });

  it('has no figure where the picture can’t be printed', () => {
    const broken = { ...bench(60), resolved: { ok: false, reason: 'too large' } } as WorkBench;
    for (const name of SECTION_NAMES) expect(here(name, broken)).toBeNull();
  });
});
