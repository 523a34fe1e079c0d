import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { random, testPicture } from '../testing';
import { blend, clampToOne, onlyValue, product } from './blend';
import { RGBA, STRENGTH, type Form } from './form';
import { cut, emptyRaster, type Raster, type Window } from './raster';
import { whole, type Region, type Size } from './region';

const SIZE: Size = { width: 37, height: 29 };
/** What is asked for, and a window that reaches beyond it by other amounts each. */
const REGION: Region = { x: 9, y: 5, width: 20, height: 16 };

function noise(form: Form, seed: number, size = SIZE): Raster {
  const next = random(seed);
  const raster = emptyRaster(size.width, size.height, form);
  for (const plane of raster.planes)
    for (let i = 0; i < plane.length; i++) plane[i] = 1.4 * next() - 0.2;
  return raster;
}

const windowOver = (raster: Raster, region: Region): Window => ({
  region,
  raster: cut({ region: whole(raster), raster }, region),
});
const wider = (left: number, top: number, right: number, bottom: number): Region => ({
  x: REGION.x - left,
  y: REGION.y - top,
  width: REGION.width + left + right,
  height: REGION.height + top + bottom,
});

/** A value of a picture at a place of REGION. */
const at = ({ width, planes }: Raster, c: number, x: number, y: number): number =>
  planes[c]![(REGION.y + y) * width + REGION.x + x]!;

/** Holds each value of a result to what is expected of it, to the rounding of a float. */
function expectEach(result: Raster, expected: (c: number, x: number, y: number) => number): void {
  expect([result.width, result.height]).toEqual([REGION.width, REGION.height]);
  let furthest = 0;
  result.planes.forEach((plane, c) =>
    plane.forEach((value, i) => {
      const [x, y] = [i % REGION.width, Math.floor(i / REGION.width)];
      furthest = Math.max(furthest, Math.abs(value - expected(c, x, y)));
    }),
  );
  expect(furthest).toBeLessThan(3e-7);
}

const before = noise(RGBA, 1);
const after = noise(RGBA, 2);
const limits = noise(STRENGTH, 3);

describe('a blend', () => {
  it.each([0, 0.25, 0.5, 1])(
    'by %d lies so far between both, wherever their windows begin',
    (share) => {
      const result = blend(
        windowOver(before, wider(3, 0, 1, 2)),
        windowOver(after, wider(0, 4, 5, 0)),
        share,
        undefined,
        REGION,
      );
      expectEach(
        result,
        (c, x, y) => at(before, c, x, y) + share * (at(after, c, x, y) - at(before, c, x, y)),
      );
    },
  );

  it('is limited place by place, in every plane alike', () => {
    const result = blend(
      windowOver(before, wider(2, 1, 0, 0)),
      windowOver(after, wider(0, 0, 3, 3)),
      0.7,
      windowOver(limits, wider(1, 5, 2, 1)),
      REGION,
    );
    expectEach(
      result,
      (c, x, y) =>
        at(before, c, x, y) +
        0.7 * at(limits, 0, x, y) * (at(after, c, x, y) - at(before, c, x, y)),
    );
  });

  it('by nothing is the picture as it was, to the bit', () => {
    const result = blend(
      windowOver(before, REGION),
      windowOver(after, REGION),
      0,
      undefined,
      REGION,
    );
    expect(result).toEqual(windowOver(before, REGION).raster);
  });
});

describe('planes', () => {
  it('are multiplied place by place', () => {
    const other = noise(STRENGTH, 4);
    const result = product(
      windowOver(limits, wider(4, 0, 0, 1)),
      windowOver(other, wider(0, 2, 6, 0)),
      REGION,
    );
    expectEach(result, (c, x, y) => at(limits, c, x, y) * at(other, c, x, y));
  });

  it('are cut off at 0 and 1, and what lies between stays', () => {
    const result = clampToOne(windowOver(before, wider(1, 1, 1, 1)), REGION);
    expectEach(result, (c, x, y) => Math.min(1, Math.max(0, at(before, c, x, y))));
    const picture = testPicture(SIZE);
    const within = clampToOne({ region: whole(picture), raster: picture }, REGION);
    expect(Math.max(...within.planes.flatMap((plane) => [...plane]))).toBeLessThanOrEqual(1);
  });

  it('say the one value that they have in a region, whatever lies beside it', () => {
    const even = noise(STRENGTH, 5);
    for (let y = 0; y < REGION.height; y++) {
      const start = (REGION.y + y) * SIZE.width + REGION.x;
      even.planes[0]!.fill(0.5, start, start + REGION.width);
    }
    const window = windowOver(even, wider(2, 3, 4, 5));
    expect(onlyValue(window, REGION)).toBe(0.5);
    expect(onlyValue(window, wider(1, 0, 0, 0))).toBeNull();
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: REGION.width - 1 }),
        fc.integer({ min: 0, max: REGION.height - 1 }),
        (x, y) => {
          const spotted = windowOver(even, REGION);
          spotted.raster.planes[0]![y * REGION.width + x] = 0.5001;
          expect(onlyValue(spotted, REGION)).toBeNull();
        },
      ),
    );
  });
});
