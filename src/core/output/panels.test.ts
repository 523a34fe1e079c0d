import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { layOutPanels, USUAL_PANELS, type Panels } from './panels';

/** Ten pixels a millimetre. */
const ppi = 254;
const lay = (width: number, height: number, change: Partial<Panels> = {}) =>
  layOutPanels({ width: width * 10, height: height * 10, ppi }, { ...USUAL_PANELS, ...change });

function laid(width: number, height: number, change: Partial<Panels> = {}) {
  const found = lay(width, height, change);
  if (!found.ok) throw new Error(found.reason);
  return found;
}

describe('panels', () => {
  it('are one where the print is no wider than they may be', () => {
    const { panels } = laid(1000, 5000);
    expect(panels).toEqual([
      { column: 0, row: 0, name: '1', region: { x: 0, y: 0, width: 10_000, height: 50_000 } },
    ]);
  });

  it('cover the print, share the overlap, and are no larger than they may be', () => {
    const next = random(4);
    for (let i = 0; i < 300; i++) {
      const [width, height] = [50 + next() * 9000, 50 + next() * 9000];
      const widest = 100 + next() * 1500;
      const tallest = 100 + next() * 1500;
      const overlap = next() * 40;
      const found = lay(width, height, { way: 'grid', widest, tallest, overlap });
      if (!found.ok) {
        expect(found.reason).toMatch(/more than 200/);
        continue;
      }
      const all = { width: width * 10, height: height * 10 };
      for (const axis of ['x', 'y'] as const) {
        const size = axis === 'x' ? 'width' : 'height';
        const parts = found.panels.filter((one) => (axis === 'x' ? one.row : one.column) === 0);
        const most = axis === 'x' ? widest : tallest;
        expect(parts[0]!.region[axis]).toBe(0);
        const last = parts.at(-1)!.region;
        expect(Math.abs(last[axis] + last[size] - all[size])).toBeLessThanOrEqual(1);
        for (const [k, { region }] of parts.entries()) {
          expect(region[size]).toBeLessThanOrEqual(Math.max(most * 10, 0) + 1);
          const before = parts[k - 1]?.region;
          if (!before) continue;
          const shared = before[axis] + before[size] - region[axis];
          expect(shared).toBeGreaterThanOrEqual(Math.round(overlap * 10) - 1);
        }
      }
    }
  });

  it('are numbered along, and by letters where there are rows', () => {
    expect(laid(3000, 900).panels.map(({ name }) => name)).toEqual(['1', '2', '3', '4']);
    const grid = laid(1900, 1900, { way: 'grid' }).panels.map(({ name }) => name);
    expect(grid).toEqual(['A1', 'A2', 'B1', 'B2']);
    expect(laid(900, 1900, { way: 'rows' }).panels.map(({ name }) => name)).toEqual(['A1', 'B1']);
  });

  it('that are narrower than their overlap, or too many, are refused in words', () => {
    const narrow = lay(3000, 900, { widest: 15, overlap: 10 });
    expect(narrow).toMatchObject({ ok: false });
    expect(!narrow.ok && narrow.reason).toMatch(/at most 15 mm can't be wide enough/);
    const low = lay(900, 3000, { way: 'rows', tallest: 20, overlap: 10 });
    expect(!low.ok && low.reason).toMatch(/can't be high enough/);
    const many = lay(9000, 9000, { way: 'grid', widest: 100, tallest: 100 });
    expect(!many.ok && many.reason).toMatch(/more than 200. Make them larger/);
  });
});
