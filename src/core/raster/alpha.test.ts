import fc from 'fast-check';
import { expect, it } from 'vitest';
import { compositeOver, premultiplied, unpremultiply } from './alpha';
import { RGBA } from './form';

const plane = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 6, maxLength: 6 });
const rasterOf = fc.tuple(plane, plane, plane, plane).map((planes) => ({
  width: 3,
  height: 2,
  form: RGBA,
  planes: planes.map((values) => Float32Array.from(values)),
}));

it('multiplied colours come back wherever anything covers', () => {
  fc.assert(
    fc.property(rasterOf, (raster) => {
      const back = unpremultiply(premultiplied(raster));
      const alpha = raster.planes[3]!;
      for (let c = 0; c < 3; c++) {
        back.planes[c]!.forEach((value, i) => {
          if (alpha[i]! > 1e-3) expect(Math.abs(value - raster.planes[c]![i]!)).toBeLessThan(1e-4);
        });
      }
      expect(back.planes[3]).toEqual(alpha);
    }),
  );
});

it('what is laid on paper lies between the paper and itself', () => {
  fc.assert(
    fc.property(rasterOf, (raster) => {
      const paper = [1, 0.5, 0];
      const laid = compositeOver(raster, paper);
      expect(laid.planes).toHaveLength(3);
      laid.planes.forEach((values, c) =>
        values.forEach((value, i) => {
          const own = raster.planes[c]![i]!;
          expect(value).toBeGreaterThanOrEqual(Math.min(own, paper[c]!) - 1e-6);
          expect(value).toBeLessThanOrEqual(Math.max(own, paper[c]!) + 1e-6);
          if (raster.planes[3]![i] === 1) expect(value).toBeCloseTo(own, 6);
          if (raster.planes[3]![i] === 0) expect(value).toBeCloseTo(paper[c]!, 6);
        }),
      );
    }),
  );
});
