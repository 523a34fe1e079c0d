import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Affine } from '@/core/placed/placed';
import { fitted, lengthIn, lengthOf, transformOf } from './svg-units';

/** Where a map brings a point. */
const mapped = ([a, b, c, d, e, f]: Affine, [x, y]: [number, number]): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];
const near = (found: readonly number[], expected: readonly number[]) =>
  found.forEach((value, i) => expect(value).toBeCloseTo(expected[i]!, 6));

describe('a length of a drawing', () => {
  it.each([
    ['12', 12],
    ['12px', 12],
    [' 1in ', 96],
    ['2.54cm', 96],
    ['25.4MM', 96],
    ['72pt', 96],
    ['6pc', 96],
    ['-.5', -0.5],
    ['+1e2', 100],
    ['1.e1px', 10],
  ])('%s is so many pixels', (text, pixels) => expect(lengthOf(text)).toBeCloseTo(pixels, 9));

  it.each(['', 'wide', '12 13', '50%', '1em', '12pxx', 'NaN', 'Infinity', '0x10', '1e', '--1'])(
    '“%s” is none',
    (text) => expect(lengthOf(text)).toBeNull(),
  );

  it('may be a share of another one, where that is known', () => {
    expect(lengthIn('50%', 300)).toBe(150);
    expect(lengthIn('50%', null)).toBeNull();
    expect(lengthIn('20', null)).toBe(20);
    expect(lengthIn(undefined, 300)).toBeNull();
  });
});

describe('a transform', () => {
  it('is none where nothing is said', () => {
    expect(transformOf(undefined)).toEqual([1, 0, 0, 1, 0, 0]);
    expect(transformOf('  ')).toEqual([1, 0, 0, 1, 0, 0]);
  });

  it.each<[string, [number, number]]>([
    ['translate(10)', [13, 4]],
    ['translate(10, 20)', [13, 24]],
    ['scale(2)', [6, 8]],
    ['scale(2 -1)', [6, -4]],
    ['rotate(90)', [-4, 3]],
    ['rotate(90, 3, 4)', [3, 4]],
    ['rotate(180 0 4)', [-3, 4]],
    ['skewX(45)', [7, 4]],
    ['skewY(45)', [3, 7]],
    ['matrix(1 2 3 4 5 6)', [20, 28]],
    // What is named first is done last.
    ['translate(10 0) scale(2)', [16, 8]],
    ['scale(2),translate(10 0)', [26, 8]],
    ['rotate(90)translate(1,1)', [-5, 4]],
  ])('%s brings 3, 4 where it says', (text, place) => {
    near(mapped(transformOf(text)!, [3, 4]), place);
  });

  it.each([
    'turn(3)',
    'rotate(1 2)',
    'matrix(1 2 3)',
    'scale(a)',
    'scale(2',
    'scale(2) nonsense',
    'translate()x',
    'rotate(1e999)',
  ])('“%s” is not understood, rather than guessed', (text) => {
    expect(transformOf(text)).toBeNull();
  });

  it('of several is one after the other, whatever they are', () => {
    const step = fc
      .tuple(
        fc.constantFrom('translate', 'scale', 'rotate', 'skewX', 'skewY'),
        fc.integer({ min: -60, max: 60 }),
      )
      .map(([kind, by]) => `${kind}(${by})`);
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 5 }), (steps) => {
        const whole = mapped(transformOf(steps.join(' '))!, [3, -2]);
        const apart = steps.reduceRight<[number, number]>(
          (place, one) => mapped(transformOf(one)!, place),
          [3, -2],
        );
        whole.forEach((value, i) =>
          expect(Math.abs(value - apart[i]!)).toBeLessThan(1e-9 * Math.max(1, Math.abs(value))),
        );
      }),
    );
  });
});

describe('a picture in its box', () => {
  const box = { x: 10, y: 20, width: 200, height: 100 };
  const square = { width: 50, height: 50 };

  it.each([
    [undefined, { x: 60, y: 20, width: 100, height: 100, cut: false }],
    ['xMinYMin', { x: 10, y: 20, width: 100, height: 100, cut: false }],
    ['xMaxYMid meet', { x: 110, y: 20, width: 100, height: 100, cut: false }],
    ['defer xMidYMid meet', { x: 60, y: 20, width: 100, height: 100, cut: false }],
    ['xMidYMin slice', { x: 10, y: 20, width: 200, height: 200, cut: true }],
    ['xMidYMax slice', { x: 10, y: -80, width: 200, height: 200, cut: true }],
    ['none', { x: 10, y: 20, width: 200, height: 100, cut: false }],
  ])('%s', (how, place) => expect(fitted(square, box, how)).toEqual(place));

  it.each(['xMidYMid cover', 'xLeftYTop', 'middle'])('“%s” is not understood', (how) => {
    expect(fitted(square, box, how)).toBeNull();
  });

  it('is not cut where it has the shape of the box', () => {
    expect(fitted({ width: 20, height: 10 }, box, 'xMidYMid slice')).toEqual({
      ...box,
      cut: false,
    });
  });
});
