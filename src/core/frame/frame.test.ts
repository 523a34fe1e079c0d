import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planPrint } from '../measure/plan';
import type { Paper } from '../measure/paper';
import { testPaper } from '../testing';
import { draggedPaper, draggedRect, largestOfShape, WHOLE, type Grip } from './arrange';
import {
  around,
  frameSize,
  largestInside,
  pictureRect,
  rotation,
  UNFRAMED,
  type Framing,
  type Rect,
} from './framing';

const size = { width: 720, height: 480 };
const cm = (value: number) => ({ value, unit: 'cm' as const });

/** Where a point of the straightened frame lies on the picture as it came. */
function onPicture(
  x: number,
  y: number,
  frame: { width: number; height: number },
  degrees: number,
) {
  const { cos, sin } = rotation(degrees);
  const [dx, dy] = [x - frame.width / 2, y - frame.height / 2];
  return { x: frame.width / 2 + dx * cos + dy * sin, y: frame.height / 2 - dx * sin + dy * cos };
}

const corners = ({ x, y, width, height }: Rect) =>
  [x, x + width].flatMap((u) => [y, y + height].map((v) => [u, v] as const));

describe('a framing', () => {
  it('turns the grid, and takes the true grid of repeated pixels', () => {
    expect(frameSize(size, { ...UNFRAMED, turn: 90 })).toEqual({ width: 480, height: 720 });
    expect(frameSize(size, { ...UNFRAMED, grid: { width: 24, height: 20 } })).toEqual({
      width: 24,
      height: 20,
    });
    expect(pictureRect(size, UNFRAMED)).toEqual({ x: 0, y: 0, ...size });
  });

  it('never takes what lies beyond the picture, however it is straightened and cropped', () => {
    const framing = fc.record<Framing>({
      page: fc.constant(1),
      grid: fc.constant(null),
      turn: fc.constantFrom(0, 90, 180, 270),
      straighten: fc.double({ min: -45, max: 45, noNaN: true }),
      crop: fc.option(
        fc.record({
          x: fc.integer({ min: 0, max: 900 }),
          y: fc.integer({ min: 0, max: 900 }),
          width: fc.integer({ min: 1, max: 900 }),
          height: fc.integer({ min: 1, max: 900 }),
        }),
      ),
    });
    fc.assert(
      fc.property(framing, (framed) => {
        const frame = frameSize(size, framed);
        const rect = pictureRect(size, framed);
        expect(rect.width).toBeGreaterThanOrEqual(1);
        expect(rect.height).toBeGreaterThanOrEqual(1);
        // A crop in a corner that straightening left empty shrinks to a pixel; that may lie outside.
        if (rect.width === 1 || rect.height === 1) return;
        for (const [x, y] of corners(rect)) {
          const at = onPicture(x, y, frame, framed.straighten);
          expect(at.x).toBeGreaterThan(-1);
          expect(at.x).toBeLessThan(frame.width + 1);
          expect(at.y).toBeGreaterThan(-1);
          expect(at.y).toBeLessThan(frame.height + 1);
        }
      }),
    );
  });

  it('wastes little where it is straightened a little', () => {
    const { width, height } = largestInside(size, 2);
    expect(width / size.width).toBeGreaterThan(0.93);
    expect(width / height).toBeCloseTo(1.5, 1);
  });
});

const grips: Grip[] = [-1, 0, 1].flatMap((x) => [-1, 0, 1].map((y) => ({ x, y }) as Grip));
const drag = fc.record({
  x: fc.double({ min: -900, max: 900, noNaN: true }),
  y: fc.double({ min: -900, max: 900, noNaN: true }),
});

describe('a dragged crop', () => {
  const rect = { x: 100, y: 80, width: 300, height: 200 };

  it('stays on the picture, on whole pixels, in its shape where one is held', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...grips),
        drag,
        fc.option(fc.double({ min: 0.3, max: 3, noNaN: true })),
        (grip, by, shape) => {
          const next = draggedRect(rect, grip, by, size, shape);
          for (const value of Object.values(next)) expect(Number.isInteger(value)).toBe(true);
          expect(next.x).toBeGreaterThanOrEqual(0);
          expect(next.y).toBeGreaterThanOrEqual(0);
          expect(next.x + next.width).toBeLessThanOrEqual(size.width);
          expect(next.y + next.height).toBeLessThanOrEqual(size.height);
          if (shape && (grip.x || grip.y)) {
            expect(Math.abs(next.width - next.height * shape)).toBeLessThanOrEqual(1 + shape);
          }
        },
      ),
    );
  });

  it('moves one side and holds the other', () => {
    const next = draggedRect(rect, { x: -1, y: 0 }, { x: -40, y: 99 }, size, null);
    expect(next).toEqual({ x: 60, y: 80, width: 340, height: 200 });
    expect(largestOfShape(rect, 1)).toEqual({ x: 150, y: 80, width: 200, height: 200 });
  });
});

describe('a dragged paper', () => {
  const picture = { rect: { x: 0, y: 0, ...size } };
  const plan = (paper: Paper) => {
    const planned = planPrint(picture, paper, 100);
    if (!planned.ok) throw new Error(planned.reason);
    return planned.plan;
  };
  const square = testPaper({ width: cm(60), height: cm(60) });

  it('shows another part, and never leaves the picture it fills', () => {
    const moved = draggedPaper(picture, square, plan(square), WHOLE, { x: 60, y: 10 });
    expect(plan(moved).window).toEqual({ x: 180, y: 0, width: 480, height: 480 });
    const far = draggedPaper(picture, square, plan(square), WHOLE, { x: 999, y: 0 });
    expect(plan(far).window.x).toBe(240);
  });

  it('by a corner is the same paper on a smaller part, and then carries less', () => {
    const smaller = draggedPaper(
      picture,
      square,
      plan(square),
      { x: 1, y: 1 },
      { x: -240, y: -240 },
    );
    expect(plan(smaller).ordered).toEqual(plan(square).ordered);
    const { window, ppiBefore } = plan(smaller);
    expect(window.width).toBeCloseTo(240, 6);
    expect(window.x).toBeCloseTo(120, 6);
    expect(ppiBefore.x).toBeCloseTo(plan(square).ppiBefore.x / 2, 6);
  });

  it('by a side is a longer paper at the same scale', () => {
    const longer = draggedPaper(picture, square, plan(square), { x: 1, y: 0 }, { x: 80, y: 0 });
    expect(longer).toMatchObject({ width: cm(70), height: cm(60) });
    const { window, ppiBefore } = plan(longer);
    expect(window).toMatchObject({ x: expect.closeTo(120, 6), width: expect.closeTo(560, 6) });
    expect(ppiBefore.x).toBeCloseTo(plan(square).ppiBefore.x, 6);
  });

  it('outward beyond the picture becomes a margin', () => {
    const whole = testPaper({ width: cm(60), height: cm(40) });
    const wider = draggedPaper(picture, whole, plan(whole), { x: 1, y: 0 }, { x: 120, y: 0 });
    expect(wider).toMatchObject({ width: cm(70), height: cm(40) });
    const { margins, window, croppedAway } = plan(wider);
    expect(window.width).toBeCloseTo(840, 6);
    expect(margins).toBeCloseTo(1 / 7, 3);
    expect(croppedAway).toBeCloseTo(0, 6);
  });

  it('can always be planned', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...grips),
        drag,
        fc.constantFrom('crop', 'margin', 'stretch'),
        (grip, by, fit) => {
          const paper = testPaper({ width: cm(60), height: cm(50), fit });
          const next = draggedPaper(picture, paper, plan(paper), grip, by);
          const planned = planPrint(picture, next, 100);
          if (!planned.ok) expect(planned.reason).toMatch(/less than|times|more than/);
          else expect(planned.plan.picture.width).toBeGreaterThan(0);
        },
      ),
    );
  });
});

describe('what of a rectangle lies outside another', () => {
  const whole = { x: -4, y: 10, width: 20, height: 10 };
  it.each([
    ['all about it', { x: 0, y: 12, width: 5, height: 5 }, 4],
    ['at one side', { x: -9, y: 0, width: 20, height: 40 }, 1],
    ['nothing, where it is covered', { x: -9, y: 0, width: 90, height: 90 }, 0],
    ['all of it, where they do not meet', { x: 90, y: 90, width: 5, height: 5 }, 1],
  ])('%s', (_, inner, parts) => {
    const outside = around(whole, inner);
    expect(outside).toHaveLength(parts);
    // Every point once, and none of the inner one.
    for (let x = -3.5; x < 16; x++) {
      for (let y = 10.5; y < 20; y++) {
        const within = (rect: Rect) =>
          x > rect.x && x < rect.x + rect.width && y > rect.y && y < rect.y + rect.height;
        expect(outside.filter(within)).toHaveLength(within(inner) ? 0 : 1);
      }
    }
  });
});
