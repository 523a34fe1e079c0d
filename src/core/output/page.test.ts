import { describe, expect, it } from 'vitest';
import { NO_MARKS, type Marks } from './marks';
import { layOutPage } from './page';

const all: Marks = {
  ...{ crop: true, registration: true, slug: true },
  folds: [
    { along: 'width', mm: 300 },
    { along: 'height', mm: 100 },
  ],
};
const MM = 72 / 25.4;
/** 1200 x 800 mm at 254 ppi, with 3 mm of bleed: ten pixels a millimetre. */
const target = { width: 12_060, height: 8060, ppi: 254, bleed: 30 };

describe('a page', () => {
  it('without marks is as large as its picture, and its trim lies within the bleed', () => {
    const page = layOutPage(target, NO_MARKS);
    expect(page.media.width).toBeCloseTo(1206 * MM, 9);
    expect(page.picture).toEqual({ x: 0, y: 0, ...page.media });
    expect(page.bleed).toEqual(page.picture);
    expect(page.trim.x).toBeCloseTo(3 * MM, 9);
    expect(page.trim.height).toBeCloseTo(800 * MM, 9);
    expect(page.strokes).toEqual([]);
    expect(page.targets).toEqual([]);
    expect(page.slug).toBeNull();
    expect(page.unit).toBe(1);
  });

  it('has its marks in line with the trim, beyond the bleed and within the sheet', () => {
    const { media, bleed, trim, strokes, targets, slug } = layOutPage(target, all);
    // eight lines at the corners, two at each fold
    expect(strokes).toHaveLength(8 + 4);
    const outside = ({ x, y }: { x: number; y: number }) =>
      x < bleed.x || y < bleed.y || x > bleed.x + bleed.width || y > bleed.y + bleed.height;
    for (const { from, to } of strokes) {
      for (const point of [from, to]) {
        expect(outside(point)).toBe(true);
        expect(point.x).toBeGreaterThan(0);
        expect(point.y).toBeGreaterThan(0);
        expect(point.x).toBeLessThan(media.width);
        expect(point.y).toBeLessThan(media.height);
      }
    }
    const upright = strokes.filter(({ from, to }) => from.x === to.x);
    const xs = [...new Set(upright.map(({ from }) => ((from.x - trim.x) / MM).toFixed(4)))];
    expect(xs.sort()).toEqual(['0.0000', '1200.0000', '300.0000']);
    // A fold's height is told from the top.
    const folded = strokes.filter(({ dashed, from, to }) => dashed && from.y === to.y);
    expect((trim.y + trim.height - folded[0]!.from.y) / MM).toBeCloseTo(100, 9);
    expect(targets).toHaveLength(4);
    expect(targets.every(outside)).toBe(true);
    expect(slug!.y).toBeLessThan(bleed.y);
    expect(slug!.x + slug!.length).toBeLessThan(trim.x + trim.width / 2);
  });

  it('longer than 200 inches counts in larger units', () => {
    // 12 m at 50 ppi
    const page = layOutPage({ width: 23_622, height: 500, ppi: 50, bleed: 0 }, NO_MARKS);
    expect(page.media.width).toBeCloseTo((23_622 / 50) * 72, 6);
    expect(page.unit).toBe(3);
  });

  it('leaves out a fold that lies beyond the print', () => {
    const folds = [{ along: 'height' as const, mm: 800 }];
    expect(layOutPage(target, { ...NO_MARKS, folds }).strokes).toEqual([]);
  });
});
