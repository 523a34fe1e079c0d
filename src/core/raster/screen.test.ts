import fc from 'fast-check';
import { expect, it } from 'vitest';
import { TABLE_SIDE, toScreenColours } from './screen';

/** A table of a function of red, green and blue (0–1), in levels. */
function tableOf(to: (r: number, g: number, b: number) => [number, number, number]): Uint8Array {
  const table = new Uint8Array(TABLE_SIDE ** 3 * 3);
  const step = (i: number) => i / (TABLE_SIDE - 1);
  for (let r = 0, at = 0; r < TABLE_SIDE; r++)
    for (let g = 0; g < TABLE_SIDE; g++)
      for (let b = 0; b < TABLE_SIDE; b++, at += 3) {
        table.set(
          to(step(r), step(g), step(b)).map((value) => Math.round(value * 255)),
          at,
        );
      }
  return table;
}

const pixel = fc.tuple(...[0, 1, 2, 3].map(() => fc.integer({ min: 0, max: 255 })));

it('leaves colours as they are where the table says so, and alpha always', () => {
  const table = tableOf((r, g, b) => [r, g, b]);
  fc.assert(
    fc.property(pixel, (rgba) => {
      const pixels = new Uint8ClampedArray(rgba);
      toScreenColours(pixels, table);
      rgba.forEach((value, c) => expect(Math.abs(pixels[c]! - value)).toBeLessThanOrEqual(1));
      expect(pixels[3]).toBe(rgba[3]);
    }),
  );
});

it('meets a mixing of channels within a level, and a curve nearly', () => {
  const mixed = tableOf((r, g, b) => [(r + g) / 2, g * 0.5 + b * 0.5, 1 - r]);
  const curved = tableOf((r, g, b) => [r ** 1.4, g ** 1.4, b ** 1.4]);
  fc.assert(
    fc.property(pixel, ([r = 0, g = 0, b = 0, a = 0]) => {
      const pixels = new Uint8ClampedArray([r, g, b, a]);
      toScreenColours(pixels, mixed);
      expect(Math.abs(pixels[0]! - (r + g) / 2)).toBeLessThanOrEqual(1.1);
      expect(Math.abs(pixels[2]! - (255 - r))).toBeLessThanOrEqual(1.1);
      const dark = new Uint8ClampedArray([r, g, b, a]);
      toScreenColours(dark, curved);
      expect(Math.abs(dark[1]! - 255 * (g / 255) ** 1.4)).toBeLessThanOrEqual(1.6);
    }),
  );
});
