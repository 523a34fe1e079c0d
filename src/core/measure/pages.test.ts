import { describe, expect, it } from 'vitest';
import type { PlacedPicture } from '../placed/placed';
import { testFindings, testPaper } from '../testing';
import { leastPlaced, placedPpi } from './placed-ppi';
import { planPrint, type PrintPlan } from './plan';
import { customerNote, verdict } from './verdict';

/** A page of 100 x 50 points, on a grid of so many pixels. */
const GRID = { width: 1000, height: 500 };

/** A picture on it: pixels, and how many pixels of the grid it covers. */
const placed = (
  [width, height]: [number, number],
  [across, down]: [number, number],
  more: Partial<PlacedPicture> = {},
): PlacedPicture => ({
  ...{ width, height, times: 1, kept: null },
  ...{ widthPt: across / 10, heightPt: down / 10 },
  place: [across, 0, 0, down, 20, 30],
  ...more,
});
const page = (...pictures: PlacedPicture[]) => ({ widthPt: 100, heightPt: 50, pictures });

/** Printed so wide. */
function plan(centimetres: number, ppi = 100): PrintPlan {
  const paper = testPaper({ width: { value: centimetres, unit: 'cm' } });
  const planned = planPrint({ rect: { x: 0, y: 0, ...GRID }, vector: true }, paper, ppi);
  if (!planned.ok) throw new Error(planned.reason);
  return planned.plan;
}

describe('what a picture on a page carries', () => {
  it('is its pixels over the paper that it covers, whatever the page is drawn at', () => {
    // Half of 50.8 cm is 10 inches.
    const picture = placed([400, 400], [500, 500]);
    for (const ppi of [50, 100, 300])
      expect(placedPpi(picture, plan(50.8, ppi))).toBeCloseTo(40, 1);
    expect(placedPpi(picture, plan(101.6))).toBeCloseTo(20, 1);
  });

  it('is that of the side that carries less, and the same where it is turned', () => {
    expect(placedPpi(placed([400, 100], [500, 500]), plan(50.8))).toBeCloseTo(10, 1);
    const turned = placed([400, 400], [500, 500], { place: [0, 500, -500, 0, 500, 0] });
    expect(placedPpi(turned, plan(50.8))).toBeCloseTo(40, 1);
  });

  it('is no matter of a picture that the page never shows', () => {
    expect(placedPpi(placed([4, 4], [500, 500], { place: null }), plan(50.8))).toBe(Infinity);
  });

  it('is told of the one that carries least, but for signs that nobody looks at', () => {
    const fine = placed([4000, 4000], [500, 400]);
    const coarse = placed([200, 200], [400, 400]);
    const sign = placed([4, 4], [40, 40]);
    expect(leastPlaced(page(fine, coarse, sign), plan(50.8))).toMatchObject({ picture: 2 });
    expect(leastPlaced(page(sign), plan(50.8))).toBeNull();
    expect(leastPlaced(page(), plan(50.8))).toBeNull();
  });
});

describe('the verdict on a page', () => {
  const judge = (pixels: number, metres = 1) => {
    const findings = testFindings(GRID, { vector: page(placed([pixels, pixels], [500, 500])) });
    return {
      ...verdict(plan(50.8), metres, findings),
      note: customerNote('flyer.pdf', GRID, plan(50.8), metres, findings),
    };
  };

  it('goes by its pictures, from good to trouble', () => {
    // At a metre about 87 ppi are needed.
    expect([2000, 600, 200, 40].map((pixels) => judge(pixels).tone)).toEqual([
      'good',
      'good',
      'caution',
      'trouble',
    ]);
    expect(judge(600).short).toBe('enlarge its pictures');
    expect(judge(200).fact).toContain('number 1 is 20 ppi');
  });

  it('asks more of it the nearer one stands', () => {
    expect(judge(600, 5).short).toBe('its pictures hold');
    expect(judge(600, 0.3).tone).toBe('caution');
  });

  it('comes with a note that says how many pixels would do, where it does not do', () => {
    expect(judge(2000).note).toBeNull();
    const { note } = judge(200);
    expect(note).toContain('a picture on it of 200 x 200 pixels');
    const [, wanted] = /about (\d+) x \d+ pixels/.exec(note!)!;
    expect(judge(Number(wanted)).tone).toBe('good');
    expect(judge(Number(wanted)).short).toBe('its pictures hold');
  });
});
