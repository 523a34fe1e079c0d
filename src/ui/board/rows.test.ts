import { describe, expect, it } from 'vitest';
import { testFindings, testPaper } from '@/core/testing';
import { propose } from '@/core/recipe/propose';
import type { JobSummary } from '@/core/shop/job';
import { orderedWords, rowOf, shownRows } from './rows';

const findings = testFindings({ width: 720, height: 480 });
const cm = (value: number) => ({ value, unit: 'cm' as const });

function job(id: number, change: Partial<JobSummary> = {}): JobSummary {
  const paper = testPaper({ width: cm(120), height: cm(80) });
  return {
    id,
    number: String(400 + id).padStart(4, '0'),
    title: id % 2 ? 'Dome at dusk' : 'Star chart',
    customer: 'Colle Vespra Observatory',
    due: null,
    state: id % 3 ? 'received' : 'printed',
    archived: false,
    pieces: 1,
    digest: 'd'.repeat(64),
    findings,
    work: propose(findings, { paper, distance: 2 }).work,
    ...change,
  };
}

describe('the board', () => {
  it('says what a job carries and how it will look', () => {
    const row = rowOf(job(1));
    expect(row.plan?.ppiBefore.x).toBeCloseTo(15.24, 2);
    expect(row.verdict?.tone).toBe('caution');
    expect(orderedWords(row)).toBe('120 × 80 cm');
  });

  it('is shown by state, by every word of a search, and without its archive', () => {
    const rows = [1, 2, 3, 4].map((id) => rowOf(job(id, { archived: id === 4 })));
    const all = { archived: false, state: null, search: '' };
    const ids = (shown: Parameters<typeof shownRows>[1]) => shownRows(rows, shown).map((r) => r.id);
    expect(ids(all)).toEqual([1, 2, 3]);
    expect(ids({ ...all, archived: true })).toEqual([4]);
    expect(ids({ ...all, state: 'printed' })).toEqual([3]);
    expect(ids({ ...all, search: 'vespra DOME' })).toEqual([1, 3]);
    expect(ids({ ...all, search: '0402' })).toEqual([2]);
    expect(ids({ ...all, search: 'dome chart' })).toEqual([]);
  });

  it('names papers that are open or measured in pixels', () => {
    const open = (paper: object) =>
      orderedWords(job(1, { work: { ...job(1).work, paper: testPaper(paper) } }));
    expect(open({})).toBe('720 × 480 px');
    expect(open({ height: cm(40) })).toBe('… × 40 cm');
    expect(open({ width: cm(40), height: { value: 12, unit: 'in' } })).toBe('40 cm × 12 in');
  });
});
