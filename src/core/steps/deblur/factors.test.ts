import { describe, expect, it } from 'vitest';
import { factorsOf, type Factor } from './factors';
import { inverseOf } from './inverse';
import type { Spread } from './point-spread';

/** The square that factors come to. */
function product(factors: readonly Factor[], side: number): Float64Array {
  const middle = (side - 1) / 2;
  return Float64Array.from({ length: side * side }, (_, i) => {
    const [x, y] = [Math.abs((i % side) - middle), Math.abs(Math.floor(i / side) - middle)];
    return factors.reduce((sum, { down, across }) => sum + down[y]! * across[x]!, 0);
  });
}

describe('factors of the weights of an inverse', () => {
  it.each<Spread>([
    { form: 'gaussian', radius: 0.8 },
    { form: 'gaussian', radius: 4.5 },
    { form: 'disc', radius: 6 },
    { form: 'motion', length: 7, angle: 90 },
  ])('of %j come to them but for what may be left out', (spread) => {
    const taps = inverseOf(spread, 0.05);
    for (const rest of [1e-3, 1e-6]) {
      const factors = factorsOf(taps, rest)!;
      const missing = product(factors, taps.side).reduce(
        (sum, value, i) => sum + Math.abs(value - taps.weights[i]!),
        0,
      );
      expect(missing).toBeLessThanOrEqual(1.0001 * rest);
      expect(2 * factors.length).toBeLessThan(taps.side);
    }
  });

  it('are none of a motion aslant', () => {
    expect(factorsOf(inverseOf({ form: 'motion', length: 9, angle: 40 }, 0.05), 1e-3)).toBeNull();
  });
});
