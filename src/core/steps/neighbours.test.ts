import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { medianOf } from './neighbours';

describe('a median', () => {
  it('is that of the sorted values, however many there are and however often one is among them', () => {
    const next = random(5);
    for (let count = 1; count <= 200; count++) {
      const spread = count % 3 === 0 ? 4 : 1000;
      const values = Float32Array.from({ length: 220 }, () => Math.floor(next() * spread) / 7);
      const sorted = values.slice(0, count).sort();
      const middle = count >> 1;
      const expected =
        count % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
      const beyond = values.slice(count);
      expect(medianOf(values, count)).toBe(expected);
      // What lies beyond those that count is left alone.
      expect(values.slice(count)).toEqual(beyond);
    }
  });
});
