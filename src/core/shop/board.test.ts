import { describe, expect, it } from 'vitest';
import { propose } from '../recipe/propose';
import { testFindings, testPaper } from '../testing';
import { boardFacts, BoardQuery, searchWords } from './board';

const findings = testFindings({ width: 720, height: 480 });
const cm = (value: number) => ({ value, unit: 'cm' as const });

const facts = (paper: object, of = findings) => {
  const ordered = testPaper({ width: cm(120), height: cm(80) });
  const { work } = propose(of, { paper: ordered, distance: 2 });
  return boardFacts('d'.repeat(64), of, { ...work, paper: { ...ordered, ...paper } });
};

describe('what the board shows of a job', () => {
  it('says its effective resolution and how it will look', () => {
    const shown = facts({});
    expect(shown.ppi).toBeCloseTo(15.24, 2);
    expect(shown.verdict?.tone).toBe('caution');
    expect(shown.print).toBe('120 × 80 cm');
    expect(shown.inches!.width).toBeCloseTo(120 / 2.54, 9);
  });

  it('names papers that are open or measured in pixels', () => {
    const none = { width: null, height: null };
    expect(facts(none).print).toBe('720 × 480 px');
    expect(facts({ ...none, height: cm(40) }).print).toBe('60 × 40 cm');
    const mixed = { width: cm(40), height: { value: 12, unit: 'in' } };
    expect(facts(mixed).print).toBe('40 × 30.5 cm');
  });

  it('is asked for by words of an address', () => {
    expect(BoardQuery.parse({})).toMatchObject({ archived: false, order: 'due', page: 0 });
    const asked = BoardQuery.parse({ archived: '1', down: '1', page: '3', state: 'printed' });
    expect(asked).toMatchObject({ archived: true, down: true, page: 3, state: 'printed' });
    for (const wrong of [{ archived: 'yes' }, { page: '-1' }, { order: 'id; drop table jobs' }]) {
      expect(BoardQuery.safeParse(wrong).success).toBe(false);
    }
    expect(searchWords('  Vespra DOME ')).toEqual(['vespra', 'dome']);
  });
});
