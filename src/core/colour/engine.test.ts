import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { RGB, RGBA } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { testPicture } from '../testing';
import { Intent } from './conversion';
import { testEngine } from '../testing/engine';
import type { ColourEngine } from './engine';
import { transformsFrom } from './transforms';

const profile = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../../../profiles/${name}.icc`, import.meta.url)));
const [srgb, coated, grey] = ['srgb', 'coated', 'grey'].map(profile) as [
  Uint8Array,
  Uint8Array,
  Uint8Array,
];
const relative = { intent: 'relative', blackPoint: true } as const;

let engine: ColourEngine;
beforeAll(async () => {
  engine = await testEngine();
});

const oneColour = (...values: number[]): Raster => {
  const raster = emptyRaster(1, 1, values.length === 4 ? RGBA : RGB);
  values.forEach((value, i) => raster.planes[i]!.fill(value));
  return raster;
};
const inks = (raster: Raster) => raster.planes.map((plane) => plane[0]!);

describe('the colour engine', () => {
  it('turns white into no ink and black into much of it', () => {
    const { apply } = engine.transform(srgb, coated, relative);
    const paper = apply(oneColour(1, 1, 1));
    expect(paper.form).toEqual({ colours: 4, alpha: false, space: 'device cmyk' });
    for (const ink of inks(paper)) expect(ink).toBeLessThan(0.005);
    const black = inks(apply(oneColour(0, 0, 0)));
    expect(black[3]).toBeGreaterThan(0.85);
    expect(black.reduce((sum, ink) => sum + ink, 0)).toBeLessThan(3.35);
    const [cyan, magenta, yellow] = inks(apply(oneColour(1, 0, 0)));
    expect(cyan).toBeLessThan(0.1);
    expect(magenta).toBeGreaterThan(0.9);
    expect(yellow).toBeGreaterThan(0.8);
  });

  it('gives back what a device has, there and back', () => {
    const picture = testPicture({ width: 300, height: 250 });
    // Pale colours, which any paper has.
    for (const plane of picture.planes) plane.forEach((v, i) => (plane[i] = 0.45 + 0.4 * v));
    const there = engine.transform(srgb, coated, relative).apply(picture);
    const back = engine.transform(coated, srgb, relative).apply(there);
    let sum = 0;
    back.planes.forEach((plane, c) =>
      plane.forEach((v, i) => (sum += Math.abs(v - picture.planes[c]![i]!))),
    );
    expect((sum / (3 * 300 * 250)) * 255).toBeLessThan(2.5);
  });

  it('is the same for a picture as for each of its parts', () => {
    const picture = testPicture({ width: 700, height: 300 });
    const { apply } = engine.transform(srgb, coated, relative);
    const whole = apply(picture);
    const first = emptyRaster(700, 10, RGB);
    first.planes.forEach((plane, c) => plane.set(picture.planes[c]!.subarray(0, 7000)));
    apply(first).planes.forEach((plane, c) =>
      expect(plane).toEqual(whole.planes[c]!.subarray(0, 7000)),
    );
  });

  it('leaves transparency alone, and a profile’s own colours', () => {
    const result = engine.transform(srgb, srgb, relative).apply(oneColour(0.2, 0.5, 0.8, 0.3));
    const [r, g, b, alpha] = inks(result);
    expect(alpha).toBeCloseTo(0.3, 6);
    for (const [is, was] of [
      [r, 0.2],
      [g, 0.5],
      [b, 0.8],
    ] as const)
      expect(is).toBeCloseTo(was, 2);
  });

  it('makes grey of one plane, and has every intent', () => {
    const { planes } = engine.transform(srgb, grey, relative).apply(oneColour(0.5, 0.5, 0.5));
    expect(planes).toHaveLength(1);
    // L* of the middle grey
    expect(planes[0]![0]).toBeCloseTo(0.535, 1);
    const blues = Intent.options.map((intent) =>
      inks(engine.transform(srgb, coated, { intent, blackPoint: false }).apply(oneColour(0, 0, 1))),
    );
    expect(new Set(blues.map(String)).size).toBeGreaterThan(1);
  });

  it('says what a file lacks that is no profile, or another one', () => {
    expect(engine.spaceOf(coated)).toBe('cmyk');
    const broken = coated.slice();
    broken.fill(0, 128, 1200);
    expect(() => engine.transform(srgb, broken, relative)).toThrow(/damaged|no way/);
    expect(() => engine.spaceOf(new Uint8Array(50))).toThrow(/no colour profile/);
    const cut = coated.slice(0, 3000);
    expect(() => engine.transform(srgb, cut, relative)).toThrow();
    expect(() => engine.transform(coated, srgb, relative).apply(oneColour(0, 0, 0))).toThrow(
      /3 planes where 4/,
    );
  });
});

describe('transforms', () => {
  it('are made once each, and again where they could not be', async () => {
    let asked = 0;
    const of = transformsFrom(async () => {
      if (asked++ === 0) throw new Error('not there yet');
      return engine;
    });
    const pair = { from: { digest: 'a', bytes: srgb }, to: coated };
    const to = { profile: 'c'.repeat(64), space: 'cmyk', ...relative } as const;
    await expect(of(pair, to)).rejects.toThrow('not there yet');
    expect(await of(pair, to)).toBe(await of(pair, to));
    expect(await of(pair, { ...to, intent: 'absolute' })).not.toBe(await of(pair, to));
    expect(asked).toBe(3);
  });
});
