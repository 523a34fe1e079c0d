import { describe, expect, it } from 'vitest';
import { ticksOf } from './ticks';

const labelled = (origin: number, mm: number, length: number) => {
  const { ticks, unit } = ticksOf({ origin, mm }, length);
  return { unit, ticks: ticks.filter(({ label }) => label !== null), all: ticks };
};

describe('the ticks of a ruler', () => {
  it('stand where the millimetres do, figures far enough apart to be read', () => {
    for (const mm of [0.03, 0.4, 1, 6.3, 48, 400]) {
      const { ticks, unit } = labelled(20, mm, 900);
      expect(ticks.length).toBeGreaterThan(1);
      for (const [i, { at, label }] of ticks.entries()) {
        const value = Number(label) * (unit === 'cm' ? 10 : 1);
        expect(at).toBeCloseTo(20 + value * mm, 6);
        if (i > 0) expect(at - ticks[i - 1]!.at).toBeGreaterThan(55.9);
      }
    }
  });

  it('begin at zero, go below it where the sheet is larger, and end with the ruler', () => {
    const { ticks, all } = labelled(120, 1, 300);
    expect(ticks.map(({ label }) => label)).toContain('0');
    expect(ticks[0]!.label).toBe('-10');
    expect(all.every(({ at }) => at >= 0 && at <= 300)).toBe(true);
  });
});
