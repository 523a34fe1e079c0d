import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Transform } from '../colour/engine';
import { formOf } from '../colour/form';
import { emptyRaster, type Raster } from '../raster/raster';
import type { Region } from '../raster/region';
import { testEngine } from '../testing/engine';
import { DOTS_TO_LEVEL, inkColours, printLook, type InkColours, type Printed } from './print-look';
import type { Screen } from './protocol';

const profile = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../../../profiles/${name}.icc`, import.meta.url)));

let toScreen: Transform;
let colours: InkColours;
beforeAll(async () => {
  const engine = await testEngine();
  const how = { intent: 'relative', blackPoint: false } as const;
  toScreen = engine.transform(profile('coated'), profile('srgb'), how);
  colours = inkColours(toScreen);
});

const SCATTERED: Screen = { dpi: 720, way: 'scattered', lines: 100, spread: 0.03 };
const ROWS: Screen = { dpi: 1200, way: 'rows', lines: 150, spread: 0.012 };

/** A print of one colour, or of one on its left and another on its right half. */
function print(screen: Screen, ink: number[], other = ink): Printed {
  const pixels = { width: 64, height: 64 };
  return {
    ...{ pixels, screen, colours, dots: { width: 64 * 8, height: 64 * 8 } },
    read: async ({ x, width, height }: Region): Promise<Raster> => {
      const raster = emptyRaster(width, height, formOf('cmyk', false));
      raster.planes.forEach((plane, c) => {
        for (let i = 0; i < plane.length; i++) {
          plane[i] = (x + (i % width) < pixels.width / 2 ? ink : other)[c]!;
        }
      });
      return raster;
    },
  };
}

const toLight = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const meanLight = (plane: Float32Array) =>
  plane.reduce((sum, value) => sum + toLight(value), 0) / plane.length;

/** Light of one colour by the profile alone. */
function byProfile(...ink: number[]): number[] {
  const raster = emptyRaster(1, 1, formOf('cmyk', false));
  ink.forEach((amount, c) => (raster.planes[c]![0] = amount));
  return toScreen.apply(raster).planes.map((plane) => toLight(plane[0]!));
}

describe.each([
  ['scattered', SCATTERED],
  ['in rows', ROWS],
])('a print with dots %s', (_, screen) => {
  it.each([[0.1], [0.3], [0.5], [0.8]])(
    'is as light as its profile says at %f of black',
    async (k) => {
      const region = { x: 128, y: 128, width: 256, height: 256 };
      const seen = await printLook(print(screen, [0, 0, 0, k]), region, 0);
      const [, wanted] = byProfile(0, 0, 0, k);
      expect(Math.abs(meanLight(seen.planes[1]!) - wanted!)).toBeLessThan(0.02);
    },
  );

  it('comes to the same from near and from afar', async () => {
    const of = print(screen, [0.4, 0.2, 0.5, 0.1]);
    const light = async (level: number) => {
      const side = 512 >> level;
      const seen = await printLook(of, { x: 0, y: 0, width: side, height: side }, level);
      return seen.planes.map(meanLight);
    };
    const [near, afar] = [await light(DOTS_TO_LEVEL), await light(DOTS_TO_LEVEL + 1)];
    near.forEach((one, c) => expect(Math.abs(one - afar[c]!)).toBeLessThan(0.03));
  });

  it('is the same however it is cut', async () => {
    const of = print(screen, [0.4, 0.2, 0.5, 0.1], [0, 0.7, 0.1, 0.3]);
    for (const level of [0, 1, 2, 3, 4]) {
      const side = 512 >> level;
      const whole = await printLook(of, { x: 0, y: 0, width: side, height: side }, level);
      const half = side / 2;
      const part = await printLook(of, { x: half - 5, y: 3, width: 9, height: half }, level);
      for (let y = 0; y < half; y++) {
        const row = whole.planes[0]!.subarray((y + 3) * side + half - 5, (y + 3) * side + half + 4);
        expect(part.planes[0]!.subarray(y * 9, y * 9 + 9), `level ${level}`).toEqual(row);
      }
    }
  });
});

describe('a print', () => {
  it('of nothing is bare material, and of all ink is not', async () => {
    const region = { x: 0, y: 0, width: 40, height: 40 };
    const bare = await printLook(print(SCATTERED, [0, 0, 0, 0]), region, 0);
    for (const plane of bare.planes) expect(Math.min(...plane)).toBeGreaterThan(0.99);
    const solid = await printLook(print(SCATTERED, [1, 1, 1, 1]), region, 3);
    for (const plane of solid.planes) expect(Math.max(...plane)).toBeLessThan(0.2);
  });

  it('shows dots from near, and ink that ran is softer', async () => {
    const region = { x: 100, y: 100, width: 128, height: 128 };
    const spread = async (mm: number) => {
      const { planes } = await printLook(
        print({ ...SCATTERED, spread: mm }, [0, 0, 0, 0.4]),
        region,
        0,
      );
      return Math.max(...planes[1]!) - Math.min(...planes[1]!);
    };
    const [sharp, run, far] = [await spread(0), await spread(0.02), await spread(0.06)];
    expect(sharp).toBeGreaterThan(0.7);
    expect(run).toBeLessThan(sharp - 0.05);
    expect(far).toBeLessThan(run - 0.1);
  });

  it('keeps an edge where it was', async () => {
    const seen = await printLook(
      print(SCATTERED, [0, 0, 0, 0], [0, 0, 0, 1]),
      { x: 0, y: 0, width: 64, height: 8 },
      3,
    );
    expect(seen.planes[1]![31]).toBeGreaterThan(0.99);
    expect(seen.planes[1]![32]).toBeLessThan(0.3);
  });
});
