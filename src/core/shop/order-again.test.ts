import { describe, expect, it } from 'vitest';
import type { Paper } from '../measure/paper';
import type { Length } from '../measure/units';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import { propose } from '../recipe/propose';
import { testFindings, testPaper } from '../testing';
import { OrderAgain, workAtWidth } from './order-again';

const cm = (value: number): Length => ({ value, unit: 'cm' });

/** A picture as it was ordered. */
function ordered(paper: Partial<Paper>, size = { width: 600, height: 400 }) {
  const findings = testFindings(size);
  const { work } = propose(findings, { paper: testPaper(paper), distance: 2 });
  return { digest: 'd', findings, takenOut: [], work };
}

/** What of it is printed, in centimetres. */
function printed({ findings, work }: ReturnType<typeof ordered>): [number, number] {
  const planned = planOf(originalOf('d', findings), work, 300);
  if (!planned.ok) throw new Error(planned.reason);
  const { trim } = planned.plan;
  return [(trim.width / 300) * 2.54, (trim.height / 300) * 2.54];
}

describe('a job that is ordered again', () => {
  it('may be as it was, or of another width on paper', () => {
    expect(OrderAgain.parse({ width: null })).toEqual({ width: null });
    expect(OrderAgain.safeParse({ width: { value: 200, unit: '%' } }).success).toBe(false);
    expect(OrderAgain.safeParse({ width: { value: 200, unit: 'px' } }).success).toBe(false);
    expect(OrderAgain.safeParse({ width: cm(0) }).success).toBe(false);
  });

  it.each<[string, Partial<Paper>, [number, number]]>([
    ['its width', { width: cm(120) }, [90, 60]],
    ['its height', { height: cm(80) }, [90, 60]],
    ['both sides', { width: cm(120), height: cm(40) }, [90, 30]],
    ['neither side', {}, [90, 60]],
  ])('at another width keeps its shape, whether %s was ordered', (_, paper, [width, height]) => {
    const before = ordered(paper);
    const work = workAtWidth(before, cm(90))!;
    const [across, down] = printed({ ...before, work });
    expect(across).toBeCloseTo(width, 1);
    expect(down).toBeCloseTo(height, 1);
  });

  it('in other units keeps its shape, too', () => {
    const before = ordered({ width: cm(120), height: cm(40) });
    const work = workAtWidth(before, { value: 1, unit: 'm' })!;
    const [across, down] = printed({ ...before, work });
    expect(across).toBeCloseTo(100, 1);
    expect(down).toBeCloseTo(100 / 3, 1);
    expect(work.paper.height!.unit).toBe('cm');
  });

  it('changes its paper alone', () => {
    const before = ordered({ width: cm(120), fit: 'margin' });
    const kept = structuredClone(before.work);
    const { paper, ...rest } = workAtWidth(before, cm(60))!;
    const { paper: was, ...others } = kept;
    expect(rest).toEqual(others);
    expect({ ...paper, width: was.width, height: was.height }).toEqual(was);
    expect(before.work).toEqual(kept);
  });
});
