import { describe, expect, it } from 'vitest';
import type { Size } from '../raster/region';
import { Format, formatOf, formatOfName, packingsOf, type Compression } from './formats';
import {
  estimatedBytes,
  inFormat,
  keepsAlpha,
  outputWords,
  packedBy,
  usualOutput,
  type Output,
} from './output';
import { outputRefusal } from './refusal';

const output: Output = { ...usualOutput('tiff', 16), alpha: 'keep' };

const refusal = (format: Format, size: Size, ppi: number, compression?: Compression) => {
  const usual = usualOutput(format, 8);
  return outputRefusal(compression ? packedBy(usual, compression) : usual, { ...size, ppi });
};

describe('what a format holds', () => {
  it('is all there is up to its limit', () => {
    const { longestSide } = formatOf('jpeg');
    expect(refusal('jpeg', { width: longestSide, height: 10 }, 300)).toBeNull();
    expect(refusal('tiff', { width: 400_000, height: 300_000 }, 300)).toBeNull();
    expect(refusal('png', { width: 70_000, height: 10 }, 300)).toBeNull();
  });

  it('is said beyond it, with what works', () => {
    const words = refusal('jpeg', { width: 10, height: 131_000 }, 200);
    expect(words).toMatch(/at most 65500 pixels a side, this result has 131000/);
    expect(words).toMatch(/Choose TIFF, or order 100 ppi/);
    expect(refusal('jpeg', { width: 70_000, height: 9 }, 1)).toMatch(/Choose TIFF\.$/);
    expect(refusal('webp', { width: 16_384, height: 9 }, 100)).toMatch(/16383 .* 99 ppi/);
    const wide = { width: 70_000, height: 9 };
    expect(refusal('pdf', wide, 100, 'deflate')).toBeNull();
    expect(refusal('pdf', wide, 100, 'lossy')).toMatch(/with a JPEG inside .* 65500/);
  });

  it('is little memory for a JPEG that comes in passes', () => {
    const jpeg = { ...usualOutput('jpeg', 8), progressive: true };
    const target = { width: 10_000, height: 6000, ppi: 100 };
    expect(outputRefusal(jpeg, target)).toMatch(/more than 50 megapixels .* one pass/);
    expect(outputRefusal({ ...jpeg, sampling: '4:2:0' }, target)).toBeNull();
    expect(outputRefusal({ ...jpeg, progressive: false }, target)).toBeNull();
    expect(outputRefusal({ ...inFormat(jpeg, 'png') }, target)).toBeNull();
  });

  it('is kept when the format changes, as far as it goes', () => {
    expect(inFormat(output, 'jpeg')).toEqual({
      ...{ ...output, format: 'jpeg', compression: 'lossy', depth: 8 },
    });
    expect(inFormat(output, 'png')).toEqual({ ...output, format: 'png', compression: 'deflate' });
    const deflated = packedBy(output, 'deflate');
    expect(inFormat(deflated, 'pdf')).toEqual({ ...deflated, format: 'pdf' });
    expect(packedBy(inFormat(deflated, 'pdf'), 'lossy').depth).toBe(8);
    expect(keepsAlpha(output)).toBe(true);
    expect(keepsAlpha({ ...output, alpha: 'paper' })).toBe(false);
    expect(keepsAlpha(inFormat(output, 'jpeg'))).toBe(false);
  });
});

describe('a format', () => {
  it.each([
    ['a.tif', 'tiff'],
    ['a.b.TIFF', 'tiff'],
    ['x/y.jpeg', 'jpeg'],
    ['y.png', 'png'],
    ['y.webp', 'webp'],
    ['z.PDF', 'pdf'],
    ['z.gif', null],
    ['png', null],
  ])('is told by the name %s', (name, format) => expect(formatOfName(name)).toBe(format));

  it('packs in ways that hold at least 8 bits, and says how', () => {
    for (const format of Format.options) {
      const ways = packingsOf(format).map((one) => formatOf(format).packings[one]!);
      expect(ways.length).toBeGreaterThan(0);
      for (const { label, depths } of ways) {
        expect(label).not.toBe('');
        expect(depths[0]).toBe(8);
      }
    }
  });

  it('has endings and a media type of its own', () => {
    const all = Format.options.map(formatOf);
    const endings = all.flatMap((one) => one.endings);
    expect(new Set(endings).size).toBe(endings.length);
    expect(new Set(all.map((one) => one.mediaType)).size).toBe(all.length);
  });

  it('says how it is written, and about how large it becomes', () => {
    expect(outputWords(output)).toBe('TIFF 16 bit');
    expect(outputWords(inFormat(output, 'jpeg'))).toBe('JPEG 95');
    const size = { width: 1000, height: 1000 };
    expect(estimatedBytes(size, output)).toBe(6_000_000);
    const jpeg = inFormat(output, 'jpeg');
    const [good, poor] = [jpeg, { ...jpeg, quality: 60 }].map((one) => estimatedBytes(size, one));
    expect(good).toBe(350_000);
    expect(poor).toBeLessThan(good! / 2);
  });
});
