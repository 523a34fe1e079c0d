import { describe, expect, it } from 'vitest';
import { expNegative, sinPi } from './portable-math';

describe('portable functions', () => {
  it('agree with the engine to the last digits', () => {
    for (let x = -7; x <= 7; x += 0.0137) {
      expect(Math.abs(sinPi(x) - Math.sin(Math.PI * x))).toBeLessThan(4e-15);
    }
    for (let x = -40; x <= 0; x += 0.173) {
      expect(Math.abs(expNegative(x) / Math.exp(x) - 1)).toBeLessThan(1e-12);
    }
  });

  it('are exact where zeros and ones belong', () => {
    for (let n = -6; n <= 6; n++) expect(Math.abs(sinPi(n))).toBe(0);
    expect(sinPi(0.5)).toBeCloseTo(1, 15);
    expect(expNegative(0)).toBe(1);
    expect(expNegative(-1000)).toBe(0);
  });
});
