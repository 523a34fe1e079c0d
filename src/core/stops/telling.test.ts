import { describe, expect, it } from 'vitest';
import { tellingPlace } from './telling';

const size = { width: 640, height: 320 };
/** A sky over a wall whose left part is the finest. */
const maps = {
  columns: 4,
  rows: 2,
  sharpness: [null, null, 5, null, 90, 80, 40, 30],
};

describe('a telling place', () => {
  it('is the nearest part with plenty of detail, where a flat one is in view', () => {
    const place = tellingPlace(maps, size, { x: 600, y: 20 })!;
    // The second of the lower row: fine enough, and nearer than the finest.
    expect(place.x).toBeCloseTo(32 + (640 - 64) / 3, 6);
    expect(place.y).toBe(320 - 32);
  });

  it('is none where one is in view', () => {
    expect(tellingPlace(maps, size, { x: 20, y: 300 })).toBeNull();
    expect(tellingPlace(maps, size, { x: 440, y: 300 })).toBeNull();
  });

  it('is none where nothing is known, or nothing is there', () => {
    const flat = { ...maps, sharpness: Array<null>(8).fill(null) };
    expect(tellingPlace(flat, size, { x: 20, y: 20 })).toBeNull();
    const one = { columns: 1, rows: 1, sharpness: [60] };
    expect(tellingPlace(one, { width: 40, height: 30 }, { x: 3, y: 3 })).toBeNull();
  });
});
