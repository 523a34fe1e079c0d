import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { strengthAt, transformOf } from './transform';

/** The transform by its definition. */
function byDefinition(re: Float64Array, im: Float64Array): [Float64Array, Float64Array] {
  const n = re.length;
  const [real, imaginary] = [new Float64Array(n), new Float64Array(n)];
  for (let k = 0; k < n; k++)
    for (let i = 0; i < n; i++) {
      const angle = (-2 * Math.PI * k * i) / n;
      real[k]! += re[i]! * Math.cos(angle) - im[i]! * Math.sin(angle);
      imaginary[k]! += re[i]! * Math.sin(angle) + im[i]! * Math.cos(angle);
    }
  return [real, imaginary];
}

const noise = (length: number, seed: number) => {
  const next = random(seed);
  return Float64Array.from({ length }, () => 255 * next());
};
const furthest = (one: Float64Array, other: Float64Array) =>
  one.reduce((most, value, i) => Math.max(most, Math.abs(value - other[i]!)), 0);

describe('the fast Fourier transform', () => {
  it.each([2, 4, 8, 64, 256])('of %d values is the one of its definition', (length) => {
    for (const seed of [1, 2, 3]) {
      const [re, im] = [noise(length, seed), noise(length, seed + 10)];
      const [real, imaginary] = byDefinition(re, im);
      transformOf(length)(re, im);
      expect(furthest(re, real)).toBeLessThan(1e-9 * 255 * length);
      expect(furthest(im, imaginary)).toBeLessThan(1e-9 * 255 * length);
    }
  });

  it('keeps the power of what it is given (Parseval)', () => {
    const values = noise(128, 5);
    const [re, im] = [values.slice(), new Float64Array(128)];
    transformOf(128)(re, im);
    const power = (of: Float64Array) => of.reduce((sum, value) => sum + value * value, 0);
    expect((power(re) + power(im)) / 128 / power(values)).toBeCloseTo(1, 12);
  });

  it('is linear', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4, max: 4 }), fc.integer({ min: 0, max: 99 }), (by, seed) => {
        const transform = transformOf(32);
        const [one, other] = [noise(32, seed), noise(32, seed + 100)];
        const both = one.map((value, i) => value + by * other[i]!);
        const through = (values: Float64Array) => {
          const [re, im] = [values.slice(), new Float64Array(32)];
          transform(re, im);
          return re;
        };
        const apart = through(other);
        const expected = through(one).map((value, i) => value + by * apart[i]!);
        expect(furthest(through(both), expected)).toBeLessThan(1e-9 * 255 * 32);
      }),
    );
  });
});

describe('how strong a frequency is', () => {
  it('is one value of the transform', () => {
    const values = noise(64, 7);
    const [re, im] = byDefinition(values, new Float64Array(64));
    for (const k of [0, 1, 5, 31, 32])
      expect(strengthAt(values, k / 64)).toBeCloseTo(Math.hypot(re[k]!, im[k]!), 6);
  });

  it('tells a period between two whole ones', () => {
    const wave = Float64Array.from({ length: 300 }, (_, i) => Math.cos((2 * Math.PI * i) / 7.3));
    const strengths = [6.5, 7, 7.3, 7.6, 8].map((period) => strengthAt(wave, 1 / period));
    expect(Math.max(...strengths)).toBe(strengths[2]);
    expect(strengths[2]! / 150).toBeCloseTo(1, 1);
  });
});
