import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { testEngine } from '../testing/engine';
import type { ColourEngine } from './engine';
import { markBeyond, proofed, type ProofWays } from './proof';

const profile = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../../../profiles/${name}.icc`, import.meta.url)));

let engine: ColourEngine;
beforeAll(async () => {
  engine = await testEngine();
});

/** The ways of a proof of sRGB on coated paper. */
function waysOf(paperWhite: boolean): ProofWays {
  const [srgb, coated] = [profile('srgb'), profile('coated')];
  const plain = { intent: 'relative', blackPoint: true } as const;
  const there = engine.transform(srgb, coated, plain);
  const back = engine.transform(coated, srgb, plain);
  const absolute = { intent: 'absolute', blackPoint: false } as const;
  return {
    ...{ there, back, print: there, unprinted: engine.transform(srgb, srgb, plain) },
    screen: paperWhite ? engine.transform(coated, srgb, absolute) : back,
  };
}

/** Pixels of these colours. */
function pixels(...colours: [number, number, number][]): Raster {
  const raster = emptyRaster(colours.length, 1, RGB);
  colours.forEach((colour, i) => colour.forEach((v, c) => (raster.planes[c]![i] = v / 255)));
  return raster;
}
const colourAt = ({ planes }: Raster, i: number) => planes.map((plane) => plane[i]! * 255);

describe('a proof', () => {
  it('shows paper as paper, and black as light as ink leaves it, where that is wanted', () => {
    const picture = pixels([255, 255, 255], [0, 0, 0]);
    const plain = proofed(picture, waysOf(false), false).raster;
    for (const v of colourAt(plain, 0)) expect(v).toBeGreaterThan(252);
    for (const v of colourAt(plain, 1)) expect(v).toBeLessThan(10);
    const onPaper = proofed(picture, waysOf(true), false).raster;
    const [red, , blue] = colourAt(onPaper, 0);
    expect(Math.max(red!, blue!)).toBeLessThan(250);
    expect(Math.min(...colourAt(onPaper, 1))).toBeGreaterThan(12);
  });

  it('tells colours that the print lacks from those that it has', () => {
    // Pale ones and a dull brick; then pure green, pure blue, and a screen's cyan.
    const picture = pixels(
      ...([
        [200, 190, 180],
        [128, 128, 128],
        [150, 80, 60],
        [0, 255, 0],
        [0, 0, 255],
        [0, 255, 255],
      ] as [number, number, number][]),
    );
    const { beyond } = proofed(picture, waysOf(true), true);
    expect([...beyond!]).toEqual([0, 0, 0, 1, 1, 1]);
    expect(proofed(picture, waysOf(true), false).beyond).toBeNull();
  });

  it('marks them in stripes that lie still on the picture', () => {
    const beyond = new Uint8Array(64).fill(1);
    beyond.fill(0, 0, 8);
    const draw = (x: number) => {
      const rgba = new Uint8ClampedArray(256).fill(9);
      markBeyond(rgba, beyond, 8, { x, y: 40 });
      return Array.from({ length: 64 }, (_, i) => rgba[4 * i] !== 9);
    };
    const marked = draw(100);
    expect(marked.slice(0, 8)).toEqual(Array(8).fill(false));
    const share = marked.filter(Boolean).length / 56;
    expect(share).toBeCloseTo(3 / 8, 5);
    // Eight pixels farther the stripes are the same again.
    expect(draw(108)).toEqual(marked);
    expect(draw(101)).not.toEqual(marked);
  });
});
