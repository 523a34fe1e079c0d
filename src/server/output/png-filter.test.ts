import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { filterRow, unfilterRow } from './png-filter';

/** What a row's filter takes from a value, as the standard says it (ISO/IEC 15948, 9.2): left, above, and the corner. */
const PREDICTED: ((a: number, b: number, c: number) => number)[] = [
  () => 0,
  (a) => a,
  (_, b) => b,
  (a, b) => Math.floor((a + b) / 2),
  (a, b, c) => {
    const p = a + b - c;
    const [pa, pb, pc] = [Math.abs(p - a), Math.abs(p - b), Math.abs(p - c)];
    if (pa <= pb && pa <= pc) return a;
    return pb <= pc ? b : c;
  },
];

function filteredBy(filter: number, row: Uint8Array, above: Uint8Array, pixel: number): Uint8Array {
  const of = (from: Uint8Array, i: number) => (i < 0 ? 0 : from[i]!);
  return row.map(
    (value, i) => value - PREDICTED[filter]!(of(row, i - pixel), above[i]!, of(above, i - pixel)),
  );
}

/** Two rows above each other, as noise or as pictures have them, and the bytes of a pixel. */
const rows = fc
  .record({
    pixel: fc.constantFrom(1, 2, 3, 4, 6, 8),
    pixels: fc.integer({ min: 1, max: 40 }),
    smooth: fc.boolean(),
    seed: fc.infiniteStream(fc.integer({ min: 0, max: 255 })),
  })
  .map(({ pixel, pixels, smooth, seed }) => {
    const byte = () => seed.next().value as number;
    const length = pixel * pixels;
    const row = () =>
      smooth
        ? Uint8Array.from({ length }, (_, i) => 100 + 3 * Math.floor(i / pixel) + (byte() & 3))
        : Uint8Array.from({ length }, byte);
    return { pixel, above: row(), row: row() };
  });

describe('a row of a PNG', () => {
  it('comes back as it was, whichever filter is chosen for it', () => {
    fc.assert(
      fc.property(rows, ({ pixel, above, row }) => {
        const into = new Uint8Array(row.length + 1);
        filterRow(row, above, pixel, into);
        const back = into.slice(1);
        unfilterRow(into[0]!, back, above, pixel);
        expect(back).toEqual(row);
      }),
      { numRuns: 300 },
    );
  });

  it('is filtered as the standard says', () => {
    fc.assert(
      fc.property(rows, ({ pixel, above, row }) => {
        const into = new Uint8Array(row.length + 1);
        filterRow(row, above, pixel, into);
        expect(into.subarray(1)).toEqual(filteredBy(into[0]!, row, above, pixel));
      }),
      { numRuns: 300 },
    );
  });

  it.each([0, 1, 2, 3, 4])('of another program, by filter %d, is turned back', (filter) => {
    fc.assert(
      fc.property(rows, ({ pixel, above, row }) => {
        const back = filteredBy(filter, row, above, pixel);
        unfilterRow(filter, back, above, pixel);
        expect(back).toEqual(row);
      }),
    );
  });

  it('by a filter that there is none of is refused', () => {
    expect(() => unfilterRow(5, new Uint8Array(6), new Uint8Array(6), 3)).toThrow(/filter 5/);
  });

  it('is filtered so that what goes evenly costs next to nothing', () => {
    const chosen = (row: Uint8Array, above: Uint8Array) => {
      const into = new Uint8Array(row.length + 1);
      filterRow(row, above, 3, into);
      return { filter: into[0], left: new Set(into.subarray(4)).size };
    };
    const ramp = Uint8Array.from({ length: 90 }, (_, i) => 2 * Math.floor(i / 3) + 40);
    expect(chosen(ramp, new Uint8Array(90))).toEqual({ filter: 1, left: 1 });
    const noise = Uint8Array.from({ length: 90 }, (_, i) => (i * 197) & 255);
    expect(chosen(noise, noise)).toEqual({ filter: 2, left: 1 });
  });
});
