import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { LEVEL } from '../raster/samples';
import { random } from '../testing';
import { findAreas, withoutAreas, type Areas } from './areas';
import { boundariesOf } from './boundaries';
import { fillsOf } from './fills';
import { layersOf } from './layers';
import { mergeAreas, renumbered } from './merging';
import { lineOf } from './points';
import { tidied } from './tidy';
import { OUTSIDE, type Fill } from './tracing';

const grey = (level: number): Fill => ({ colour: [level, level, level] });

/** A picture in greys, by what each of its pixels is. */
function picture(width: number, height: number, at: (x: number, y: number) => number): Raster {
  const raster = emptyRaster(width, height, RGB);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (const plane of raster.planes) plane[y * width + x] = at(x, y);
  return raster;
}

/** Areas by letters, as they lie. */
function drawn(...rows: string[]): Areas {
  const letters = [...new Set(rows.join(''))].sort();
  return {
    ...{ width: rows[0]!.length, height: rows.length, count: letters.length },
    of: Int32Array.from(rows.join(''), (letter) => letters.indexOf(letter)),
  };
}

/** Any areas: blots that grew from a few colours on a small grid. */
const anyAreas = fc
  .tuple(
    fc.integer({ min: 1, max: 9 }),
    fc.integer({ min: 1, max: 9 }),
    fc.integer({ min: 1, max: 4 }),
    fc.integer({ min: 0, max: 9999 }),
  )
  .map(([width, height, count, seed]): Areas => {
    const next = random(seed);
    const of = Int32Array.from({ length: width * height }, () => Math.floor(next() * count));
    return { width, height, of, count };
  });

describe('boundaries of areas', () => {
  it('run along every side between two areas once, with each on its own hand', () => {
    fc.assert(
      fc.property(anyAreas, (areas) => {
        const { width, height, of } = areas;
        const at = (x: number, y: number) =>
          x < 0 || y < 0 || x >= width || y >= height ? OUTSIDE : of[y * width + x]!;
        const seen = new Set<string>();
        for (const { left, right, corners, closed } of boundariesOf(areas)) {
          const last = corners.length - 2;
          if (closed) {
            expect([corners[0], corners[1]]).toEqual([corners[last], corners[last + 1]]);
          }
          for (let i = 0; i + 3 < corners.length; i += 2) {
            const [x, y, toX, toY] = corners.slice(i, i + 4) as unknown as [
              number,
              number,
              number,
              number,
            ];
            const key = [Math.min(x, toX), Math.min(y, toY), x === toX].join();
            expect(seen.has(key)).toBe(false);
            seen.add(key);
            // The pixels on both hands, seen along the way with y downward.
            const [midX, midY] = [(x + toX) / 2, (y + toY) / 2];
            const [overX, overY] = [(toY - y) / 2, (x - toX) / 2];
            const pixel = (side: number) =>
              at(Math.floor(midX + side * overX), Math.floor(midY + side * overY));
            expect([pixel(1), pixel(-1)]).toEqual([left, right]);
            expect(left).not.toBe(right);
          }
        }
        let sides = 0;
        for (let y = 0; y <= height; y++)
          for (let x = 0; x <= width; x++) {
            if (y < height && at(x, y) !== at(x - 1, y)) sides++;
            if (x < width && at(x, y) !== at(x, y - 1)) sides++;
          }
        expect(seen.size).toBe(sides);
      }),
      { numRuns: 200 },
    );
  });

  it('meet in junctions, where more than two areas do', () => {
    const found = boundariesOf(drawn('aab', 'aab', 'ccc'));
    const inner = found.filter(({ left, right }) => left !== OUTSIDE && right !== OUTSIDE);
    expect(inner.map(({ left, right }) => [left, right].sort().join()).sort()).toEqual([
      '0,1',
      '0,2',
      '1,2',
    ]);
  });

  it('go round what lies within another area', () => {
    const found = boundariesOf(drawn('aaaa', 'abba', 'aaaa'));
    expect(found.filter(({ closed }) => closed).map(({ corners }) => corners.length / 2)).toEqual([
      7,
    ]);
  });
});

describe('areas of a picture', () => {
  const two = picture(24, 16, (x, y) => (x < 9 ? 0.2 : y < 7 ? 0.8 : 0.5));

  it('are where it stands still, every pixel in one of them', () => {
    const { of, count } = findAreas(two);
    expect(count).toBe(3);
    expect(new Set(of)).toEqual(new Set([0, 1, 2]));
    const at = (x: number, y: number) => of[y * 24 + x];
    expect([at(2, 2), at(20, 2), at(20, 14)]).toEqual([at(5, 12), at(15, 3), at(12, 10)]);
  });

  it('are one where the picture is one, or never stands still', () => {
    expect(findAreas(picture(10, 8, () => 0.4)).count).toBe(1);
    const next = random(3);
    const noise = findAreas(picture(12, 12, () => next()));
    expect(noise.of.every((area) => area >= 0 && area < noise.count)).toBe(true);
  });

  it('are filled with their own colour, whatever mixes at their rims', () => {
    const soft = picture(24, 16, (x) => (x < 11 ? 0.2 : x < 13 ? 0.5 : 0.8));
    const areas = findAreas(soft);
    const colours = fillsOf(soft, areas).map(({ colour }) => colour[0]!);
    expect(Math.min(...colours)).toBeCloseTo(0.2, 2);
    expect(Math.max(...colours)).toBeCloseTo(0.8, 2);
  });

  it('that are let go leave their pixels to what lies beside them', () => {
    const areas = findAreas(two);
    const gone = Uint8Array.from({ length: areas.count }, (_, i) => Number(i === 2));
    const left = withoutAreas(two, areas, fillsOf(two, areas), gone);
    expect(new Set(left.of)).toEqual(new Set([0, 1]));
    left.of.forEach((area, i) => {
      if (areas.of[i] !== 2) expect(area).toBe(areas.of[i]);
    });
  });
});

describe('areas that are too alike', () => {
  const areas = drawn('aaaabbbb', 'aaaabbbb', 'aaaabbbb', 'aaaabbbb');

  it('are made one where an edge between them is not worth it', () => {
    const near = mergeAreas(areas, [grey(0.5), grey(0.5 + 3 * LEVEL)], 200);
    expect(near.count).toBe(1);
    expect(new Set(near.of)).toEqual(new Set([0]));
  });

  it('stay two where it is', () => {
    const far = mergeAreas(areas, [grey(0.5), grey(0.7)], 200);
    expect(far).toEqual(areas);
  });

  it('are numbered from nothing again, in the order in which they come', () => {
    fc.assert(
      fc.property(anyAreas, (any) => {
        const { of, count } = renumbered(any, (area) => (area === 3 ? 1 : area));
        expect(new Set(of).size).toBe(count);
        const order = [...new Set(of)];
        expect(order).toEqual(order.map((_, i) => i));
        const same = (area: number) => (area === 3 ? 1 : area);
        of.forEach((area, i) => {
          expect(area === of[0]).toBe(same(any.of[i]!) === same(any.of[0]!));
        });
      }),
    );
  });

  it('are layers of an edge where one goes over into the other, and areas where not', () => {
    const strip = drawn(...Array.from({ length: 8 }, () => 'aaaabcccc'));
    const between = [grey(0.1), grey(0.5), grey(0.9)];
    expect([...layersOf(strip, between)!]).toEqual([0, 1, 0]);
    expect(layersOf(strip, [grey(0.1), grey(0.95), grey(0.9)])).toBeNull();
    const red: Fill = { colour: [0.9, 0.3, 0.3] };
    expect(layersOf(strip, [grey(0.1), red, grey(0.9)])).toBeNull();
    const wide = drawn(...Array.from({ length: 8 }, () => 'aaaabbbbbcccc'));
    expect(layersOf(wide, between)).toBeNull();
  });
});

describe('rims of areas', () => {
  it('are given to the side that they are most like', () => {
    const truth = drawn('aaaabbbb', 'aaaabbbb', 'aaaabbbb', 'aaaabbbb');
    const fills = [grey(0.2), grey(0.8)];
    const shown = picture(8, 4, (x) => (x < 4 ? 0.2 : 0.8));
    const frayed = drawn('aaaabbbb', 'aaabbbbb', 'aaaaabbb', 'aaaabbbb');
    expect(tidied(shown, frayed, fills).of).toEqual(truth.of);
    expect(tidied(shown, truth, fills).of).toEqual(truth.of);
  });

  it.each([0, 0.25, 0.5, 0.9])(
    'run at fractions of a pixel, as far as the next one is covered: %d',
    (covered) => {
      const [left, right] = [0.15, 0.75];
      const shown = picture(12, 14, (x) =>
        x < 6 ? left : x === 6 ? left + (1 - covered) * (right - left) : right,
      );
      const areas = drawn(...Array.from({ length: 14 }, () => 'aaaaaabbbbbb'));
      const upright = boundariesOf(areas).find(
        (one) => one.left !== OUTSIDE && one.right !== OUTSIDE,
      )!;
      const { points } = lineOf(shown, areas, [grey(left), grey(right)], upright);
      // Its ends are the junctions with the frame.
      const inner = [...points].filter((_, i) => i % 2 === 0).slice(1, -1);
      expect(inner.length).toBeGreaterThan(5);
      for (const x of inner) expect(x).toBeCloseTo(6 + covered, 6);
    },
  );
});
