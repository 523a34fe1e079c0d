import { describe, expect, it } from 'vitest';
import type { Rect } from '../frame/framing';
import { layOutProof, type ProofPaper } from './proof-sheet';

const A4: ProofPaper = { kind: 'sheet', width: 210, height: 297 };
const laid = (paper: ProofPaper, stops: number, trials: number, settings = 4) => {
  const sheet = layOutProof(paper, { stops, trials, settings });
  if (!sheet.ok) throw new Error(sheet.reason);
  return sheet;
};
const apart = (a: Rect, b: Rect) =>
  a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;

describe('a proof’s layout', () => {
  it.each([
    [A4, 1, 1],
    [A4, 6, 1],
    [A4, 4, 3],
    [{ kind: 'sheet', width: 297, height: 420 } as const, 8, 4],
    [{ kind: 'strip', width: 1060 } as const, 12, 2],
    [{ kind: 'strip', width: 300 } as const, 5, 3],
  ])('on %j keeps %i places of %i trials apart and on it', (paper, stops, trials) => {
    const sheet = laid(paper, stops, trials);
    expect(sheet.pictures).toHaveLength(stops * trials);
    const all = [
      sheet.heading,
      sheet.foot,
      ...sheet.settings.map(({ at }) => at),
      ...sheet.pictures.flatMap(({ at, words }) => [at, words]),
    ];
    for (const [i, one] of all.entries()) {
      expect(one.x).toBeGreaterThanOrEqual(8 - 1e-9);
      expect(one.x + one.width).toBeLessThanOrEqual(sheet.width - 8 + 1e-9);
      expect(one.y + one.height).toBeLessThanOrEqual(sheet.height - 8 + 1e-9);
      for (const other of all.slice(i + 1)) expect(apart(one, other)).toBe(true);
    }
    // All pictures of a place are alike.
    expect(new Set(sheet.pictures.map(({ at }) => `${at.width} ${at.height}`)).size).toBe(1);
  });

  it('says where there is no room, and what would help', () => {
    const reason = (...args: Parameters<typeof layOutProof>) => {
      const sheet = layOutProof(...args);
      return sheet.ok ? '' : sheet.reason;
    };
    expect(reason(A4, { stops: 60, trials: 1, settings: 0 })).toMatch(/Fewer places/);
    expect(reason(A4, { stops: 1, trials: 12, settings: 0 })).toMatch(/no room/);
    expect(reason({ kind: 'strip', width: 200 }, { stops: 1, trials: 3, settings: 0 })).toMatch(
      /has to be 264 mm wide/,
    );
    expect(reason({ kind: 'strip', width: 180 }, { stops: 90, trials: 2, settings: 0 })).toMatch(
      /cm long/,
    );
  });
});
