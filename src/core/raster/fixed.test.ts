import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fromFixed, roundToFixed, toFixed } from './fixed';
import { RGB } from './form';

const rasterOf = (values: number[]) => {
  const plane = Float32Array.from(values);
  return {
    width: plane.length,
    height: 1,
    form: RGB,
    planes: [plane, plane.slice(), plane.slice()],
  };
};

it('is within half a step of any value in range, and held at its ends', () => {
  const values = [-0.4, 0, 0.1, 1 / 3, 0.999, 1, 1.2];
  const [plane] = roundToFixed(rasterOf(values)).planes;
  values.forEach((value, i) => expect(Math.abs(plane![i]! - value)).toBeLessThanOrEqual(2 ** -16));
  const [held] = roundToFixed(rasterOf([-3, 9, NaN])).planes;
  expect(held![0]).toBe(-0.5);
  expect(held![1]).toBe(1.5 - 2 ** -15);
});

it('keeps rounded values exactly, none and full among them', () => {
  fc.assert(
    fc.property(fc.array(fc.float({ noNaN: true }), { minLength: 1, maxLength: 50 }), (values) => {
      const [plane] = roundToFixed(rasterOf([...values, 0, 1])).planes;
      const back = new Float32Array(plane!.length);
      fromFixed(toFixed(plane!), back);
      expect(back).toEqual(plane);
      expect([...roundToFixed(rasterOf([...plane!])).planes[0]!]).toEqual([...plane!]);
      expect([...back.slice(-2)]).toEqual([0, 1]);
    }),
  );
});
