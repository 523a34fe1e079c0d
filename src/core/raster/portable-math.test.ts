import { describe, expect, it } from 'vitest';
import { expNegative, lengthOf, powerOfTwo, sinPi } from './portable-math';

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

  it('give lengths and powers of two', () => {
    expect(lengthOf(3, 4)).toBe(5);
    expect(lengthOf(2, 3, 6)).toBe(7);
    for (const x of [-1.36, -0.5, 0, 0.45, 1]) {
      expect(Math.abs(powerOfTwo(x) - Math.pow(2, x))).toBeLessThan(1e-9);
    }
    expect(powerOfTwo(0)).toBe(1);
  });
});
