import { describe, expect, it } from 'vitest';
import { cut } from '../raster/raster';
import { whole, type Region } from '../raster/region';
import { testHistory as told, testPicture } from '../testing';
import type { CompressedBefore } from './compressed-before';
import { happenedTo, sentenceOf } from './happened';
import { historyOf, knownEnlarged, measureHistory, type History } from './history';
import type { JpegFacts } from './jpeg';

/** What a network gives: a value and half the logarithm of its precision, again and again. */
const values = (...all: number[]): Float32Array => Float32Array.from(all);

const jpeg = (quality: number | null): JpegFacts => ({
  ...{ luma: new Array<number>(64).fill(9), chroma: null, quality },
  ...{ samplingX: 1, samplingY: 1, gridX: 0, gridY: 0, progressive: false },
});

describe('what happened to a picture', () => {
  it('is told in its own units, with how far off it may be', () => {
    const { blur, noise, sharpening, enlarged, quality, radius, darks, coloured } = historyOf(
      values(0.5, 2, 0.25, 2, 0, 2, 1, 0, 0, 2, 2 / 3, 2, 0.5, 3),
      values(0.5, 2, -0.5, 2, 0.8, 2),
    );
    expect(blur.value).toBeCloseTo(1, 6);
    expect(blur.off).toBeCloseTo(2 * Math.hypot(Math.exp(-2), 0.03), 6);
    expect(noise.value).toBeCloseTo(3, 6);
    expect(sharpening).toMatchObject({ value: 180, off: expect.closeTo(180, 0) as number });
    expect(enlarged.value).toBeCloseTo(1, 6);
    expect(quality.value).toBeCloseTo(70, 6);
    expect(radius.value).toBeCloseTo(1.5, 6);
    expect(coloured.value).toBeCloseTo(0.8, 6);
    // Noise may be weaker in the darks.
    expect(darks.value).toBeCloseTo(-1, 6);
  });

  it('is never less than nothing', () => {
    expect(historyOf(values(...Array<number[]>(7).fill([-1, 0]).flat()), null)).toMatchObject({
      blur: { value: 0 },
      quality: { value: 100 },
    });
  });

  it('goes by the pixels for how much it was enlarged, where they tell', () => {
    const measured = told({ enlarged: [0.9, 0.5] });
    expect(knownEnlarged(measured, null)).toBe(measured);
    const { enlarged, blur } = knownEnlarged(measured, 1.5);
    expect(enlarged.value).toBeCloseTo(Math.log2(1.5), 9);
    expect(enlarged.off).toBeLessThan(0.1);
    expect(blur).toEqual(measured.blur);
    const said = happenedTo(knownEnlarged(measured, 2), { jpeg: null, compressedBefore: null });
    expect(sentenceOf(said)).toBe('Made 2 times as large');
  });

  it('is judged in squares that begin on the grid of the file, and in none of a picture too small', async () => {
    const sourceOf = (width: number, height: number) => {
      const size = { width, height };
      const raster = testPicture(size, 3);
      const seen: Region[] = [];
      const read = (region: Region) => {
        seen.push(region);
        return Promise.resolve(cut({ region: whole(size), raster }, region));
      };
      return { source: { size, read }, seen };
    };
    const networks = { measure: () => new Float32Array(14), kind: null };
    const large = sourceOf(700, 250);
    const own = { ...jpeg(70), gridX: -3, gridY: -5 };
    expect(await measureHistory(large.source, networks, own)).not.toBeNull();
    expect(large.seen).toHaveLength(3);
    for (const { x, y, width, height } of large.seen) {
      expect([(x + 3) % 8, (y + 5) % 8]).toEqual([0, 0]);
      expect([x + width <= 700, y + height <= 250, width > 180]).toEqual([true, true, true]);
    }
    const small = sourceOf(31, 400);
    expect(await measureHistory(small.source, networks, null)).toBeNull();
    expect(small.seen).toHaveLength(0);
  });
});

describe('in words', () => {
  const by = (quality: number | null, compressedBefore: CompressedBefore | null = null) => ({
    jpeg: quality === null ? null : jpeg(quality),
    compressedBefore,
  });

  it('only what is plain is said: large enough, and surely not nothing', () => {
    const said = (history: History) => happenedTo(history, by(null)).map(({ of }) => of);
    expect(said(told({}))).toEqual([]);
    expect(said(told({ blur: [0.8, 0.2], noise: [5, 4] }))).toEqual(['blur']);
    expect(said(told({ blur: [0.2, 0.01], sharpening: [90, 30] }))).toEqual(['sharpening']);
  });

  it('is one sentence, grain within noise', () => {
    const history = told({ blur: [0.8, 0.2], noise: [6.2, 1], grain: [1, 0.2] });
    expect(sentenceOf(happenedTo(history, by(70)))).toBe(
      'Soft by 0.8 px; noise of 6.2 levels, in specks of 2 px; and JPEG of quality 70',
    );
    const twice = by(90, { quality: 50, x: 3, y: 0 });
    expect(sentenceOf(happenedTo(told({}), twice))).toBe('Once a JPEG of quality 50');
    expect(sentenceOf(happenedTo(told({}), by(70)))).toBe('JPEG of quality 70');
  });

  it.each([
    [{ coloured: [0.9, 0.1] }, ', in colour'],
    [{ coloured: [0.1, 0.1] }, ', in brightness alone'],
    [{ coloured: [0.6, 0.3] }, ''],
    [{ darks: [1, 0.4] }, ', stronger in the darks'],
    [{ darks: [-1, 0.4] }, ', stronger in the lights'],
    [{ darks: [1, 1.2] }, ''],
    [{ grain: [0.6, 0.1], coloured: [0.9, 0.1] }, ', in colour, in specks of 1.6 px'],
  ] as const)('says of what kind noise is, where that is sure: %o', (kind, said) => {
    const history = told({ noise: [6, 1], ...kind });
    expect(sentenceOf(happenedTo(history, by(null)))).toBe(`Noise of 6 levels${said}`);
  });

  it('tells of what may have been, where it is asked for', () => {
    const history = told({ blur: [0.8, 0.2], sharpening: [70, 70], noise: [1, 0.1] });
    expect(sentenceOf(happenedTo(history, by(null), true))).toBe(
      'Soft by 0.8 px; and perhaps sharpened before, by about 70 %',
    );
  });

  it('leaves fine compression out', () => {
    expect(happenedTo(told({}), by(98))).toEqual([]);
    expect(happenedTo(told({}), { jpeg: jpeg(null), compressedBefore: null })).toMatchObject([
      { figure: 'its own tables' },
    ]);
  });
});
