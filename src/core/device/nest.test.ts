import { describe, expect, it } from 'vitest';
import { nestRow } from './nest';

const bed = { width: 1590, length: 30_000, gap: 10 };
const piece = (id: string, width: number, height: number) => ({ id, width, height });

describe('laying prints on a material', () => {
  it('turns what takes less length so, and leaves it where it would not fit across', () => {
    expect(nestRow([piece('a', 800, 1200)], bed)).toEqual({
      lying: [{ id: 'a', x: 0, y: 0, turned: true }],
      length: 800,
    });
    expect(nestRow([piece('a', 800, 2000)], bed)).toMatchObject({
      lying: [{ turned: false }],
      length: 2000,
    });
  });

  it('lays others beside the first where the row gets no longer by them', () => {
    const row = nestRow(
      [
        piece('a', 700, 500),
        piece('b', 400, 600),
        piece('c', 1200, 300),
        piece('d', 270, 100),
        piece('e', 100, 100),
      ],
      bed,
    )!;
    expect(row.length).toBe(500);
    expect(row.lying).toEqual([
      { id: 'a', x: 0, y: 0, turned: false },
      { id: 'b', x: 710, y: 0, turned: true },
      { id: 'd', x: 1320, y: 0, turned: false },
    ]);
  });

  it('keeps pieces apart and on the material, whatever comes', () => {
    let seed = 7;
    const random = (most: number) => (seed = (seed * 48_271) % 2_147_483_647) % most;
    for (let round = 0; round < 200; round++) {
      const pieces = Array.from({ length: 1 + random(9) }, (_, i) =>
        piece(`${i}`, 1 + random(2000), 1 + random(2000)),
      );
      const row = nestRow(pieces, bed);
      const { width, height } = pieces[0]!;
      if (!row) {
        expect(Math.min(width, height)).toBeGreaterThan(bed.width);
        continue;
      }
      let free = 0;
      for (const one of row.lying) {
        const own = pieces.find(({ id }) => id === one.id)!;
        const [across, down] = one.turned ? [own.height, own.width] : [own.width, own.height];
        expect(one.x).toBeGreaterThanOrEqual(free);
        expect(one.x + across).toBeLessThanOrEqual(bed.width);
        expect(down).toBeLessThanOrEqual(row.length);
        free = one.x + across + bed.gap;
      }
    }
  });

  it('has no place for what is wider than it both ways, or longer than what is left', () => {
    expect(nestRow([piece('a', 1700, 1600)], bed)).toBeNull();
    expect(nestRow([piece('a', 1500, 400)], { ...bed, length: 300 })).toBeNull();
    expect(nestRow([], bed)).toBeNull();
  });
});
