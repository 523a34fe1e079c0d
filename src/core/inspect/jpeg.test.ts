import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { subsampling } from './findings';
import { orientJpeg, readJpegHeader, type JpegFacts } from './jpeg';
import { estimateQuality, STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from './jpeg-quality';

const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#7a5533' } });

describe('a JPEG header', () => {
  it.each(['4:2:0', '4:4:4'])(
    'tells quality and sampling at %s over all qualities',
    async (sampling) => {
      for (let quality = 5; quality <= 98; quality += 3) {
        const bytes = await picture(40, 24)
          .jpeg({ quality, chromaSubsampling: sampling, optimiseCoding: false })
          .toBuffer();
        const { facts, width, height } = readJpegHeader(bytes)!;
        expect({ width, height }).toEqual({ width: 40, height: 24 });
        expect(Math.abs(facts!.quality! - quality)).toBeLessThanOrEqual(2);
        expect(subsampling(facts!)).toBe(sampling);
      }
    },
  );

  it('tells progressive and grey files', async () => {
    const progressive = await picture(40, 24).jpeg({ progressive: true }).toBuffer();
    expect(readJpegHeader(progressive)!.facts).toMatchObject({ progressive: true });
    const grey = await picture(40, 24).toColourspace('b-w').jpeg({ quality: 70 }).toBuffer();
    expect(readJpegHeader(grey)!.facts).toMatchObject({ chroma: null, quality: 70 });
  });

  it('is null, never a crash, wherever the file is cut or spoilt', async () => {
    const bytes = await picture(40, 24).jpeg().toBuffer();
    const scan = bytes.indexOf(Buffer.from([0xff, 0xda]));
    for (let end = 0; end < scan; end++) {
      expect(readJpegHeader(bytes.subarray(0, end))).toBeNull();
    }
    for (let at = 2; at < scan; at++) {
      const spoilt = Buffer.from(bytes);
      spoilt[at]! ^= 0xff;
      expect(() => readJpegHeader(spoilt)).not.toThrow();
    }
    expect(readJpegHeader(Buffer.from('not a picture'))).toBeNull();
  });
});

describe('the quality estimate', () => {
  it('is exact for the common tables and says nothing of others', () => {
    for (let quality = 1; quality <= 100; quality++) {
      const luma = tableAtQuality(STANDARD_LUMA, quality);
      const found = estimateQuality(luma, tableAtQuality(STANDARD_CHROMA, quality))!;
      expect(tableAtQuality(STANDARD_LUMA, found)).toEqual(luma);
    }
    expect(
      estimateQuality(
        STANDARD_LUMA.map((_, i) => 3 + (i % 8) * (i >> 3)),
        null,
      ),
    ).toBeNull();
  });
});

describe('orientation', () => {
  const facts: JpegFacts = {
    luma: STANDARD_LUMA,
    chroma: STANDARD_CHROMA,
    samplingX: 2,
    samplingY: 1,
    progressive: false,
    quality: 50,
    gridX: 0,
    gridY: 0,
  };

  it.each([
    [1, 0, 0, 2, 1],
    [2, -12, 0, 2, 1],
    [3, -12, -5, 2, 1],
    [4, 0, -5, 2, 1],
    [5, 0, 0, 1, 2],
    [6, -5, 0, 1, 2],
    [7, -5, -12, 1, 2],
    [8, 0, -12, 1, 2],
  ])(
    '%d puts the grid of a 20 x 11 picture at %d, %d',
    (orientation, gridX, gridY, samplingX, samplingY) => {
      const turned = orientJpeg(facts, orientation, 20, 11);
      expect(turned).toMatchObject({ gridX, gridY, samplingX, samplingY });
      expect(turned.luma[1]).toBe(orientation >= 5 ? STANDARD_LUMA[8] : STANDARD_LUMA[1]);
    },
  );

  it('agrees with where the blocks of a turned file really are', async () => {
    // One flat 8x8 block differs from its neighbours in the stored file.
    const pixels = Buffer.alloc(20 * 11, 90);
    for (let y = 0; y < 8; y++) for (let x = 8; x < 16; x++) pixels[y * 20 + x] = 160;
    const stored = sharp(pixels, { raw: { width: 20, height: 11, channels: 1 } });
    const turned = await sharp(await stored.withMetadata({ orientation: 6 }).png().toBuffer())
      .autoOrient()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { gridX, gridY } = orientJpeg({ ...facts, samplingX: 1, chroma: null }, 6, 20, 11);
    const channels = turned.info.channels;
    const bright = (x: number, y: number) =>
      turned.data[(y * turned.info.width + x) * channels]! > 120;
    // The block that lay at column 8, row 0 begins on the turned grid.
    let left = 0;
    let top = 0;
    while (!bright(left, 8)) left++;
    while (!bright(10, top)) top++;
    expect((left - gridX) % 8).toBe(0);
    expect((top - gridY) % 8).toBe(0);
  });
});
