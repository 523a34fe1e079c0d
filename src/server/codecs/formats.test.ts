import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toScreenColours } from '@/core/raster/screen';
import { testPixels } from '../testing/shop';
import { screenTable } from './colour';
import { decode } from './decode';
import { decodeTask } from './decoded';
import { openRaw } from './raw';
import { layOutTiff } from '../output/tiff-layout';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-formats-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let count = 0;

/** Decodes a file and reads its pixels. */
async function taken(bytes: Buffer, page = 1) {
  const file = join(folder, String(++count));
  await writeFile(file, bytes);
  const raw = `${file}.raw`;
  const decoded = await decode({ ...decodeTask(file, raw, 'picture'), page });
  const source = await openRaw(raw);
  const samples = await source.samples({ x: 0, y: 0, ...source.size });
  const { size, depth, channels } = source;
  await source.close();
  return { ...decoded, samples, size, depth, channels };
}

const size = { width: 90, height: 70 };
const picture = () => testPixels(size.width, size.height);
const plain = (image: Sharp | Buffer) =>
  (Buffer.isBuffer(image) ? sharp(image) : image).raw().toBuffer();

/** The largest difference of two runs of 8-bit samples. */
const worst = (a: Buffer, b: Buffer): number =>
  a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i]!)), 0);

describe('formats that keep every sample', () => {
  it.each<[string, () => Sharp]>([
    ['a palette PNG', () => picture().png({ palette: true })],
    ['a progressive PNG', () => picture().png({ progressive: true })],
    ['a TIFF with LZW', () => picture().tiff({ compression: 'lzw', predictor: 'horizontal' })],
    ['a TIFF with deflate', () => picture().tiff({ compression: 'deflate' })],
    ['a tiled TIFF', () => picture().tiff({ tile: true, compression: 'none' })],
    ['a lossless WebP', () => picture().webp({ lossless: true })],
    ['a GIF', () => picture().gif()],
  ])('%s is read as it is', async (_, encode) => {
    const bytes = await encode().toBuffer();
    const { samples, findings } = await taken(bytes);
    expect(findings).toMatchObject({ ...size, bitDepth: 8, damaged: 0 });
    expect(samples.equals(await plain(sharp(bytes).toColourspace('srgb').removeAlpha()))).toBe(
      true,
    );
  });

  it.each<[string, () => Sharp]>([
    ['a progressive JPEG', () => picture().jpeg({ progressive: true })],
    ['an AVIF', () => picture().avif({ quality: 60 })],
    ['a lossy WebP', () => picture().webp({ quality: 60 })],
  ])('%s is read as its decoder gives it', async (_, encode) => {
    const bytes = await encode().toBuffer();
    const { samples, findings } = await taken(bytes);
    expect(findings).toMatchObject(size);
    expect(samples.equals(await plain(bytes))).toBe(true);
    expect(findings.jpeg?.progressive ?? null).toBe(findings.format === 'jpeg' ? true : null);
  });

  it('16 bit stays 16 bit, in TIFF and PNG, grey and colour', async () => {
    const deep = picture().toColourspace('rgb16').linear(1, 77);
    const png = await deep.png().toBuffer();
    const pixels = await sharp(png).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
    const shape = {
      size,
      channels: 3,
      ppi: 72,
      profile: null,
      space: 'rgb',
      rowsPerStrip: size.height,
    } as const;
    const { header, offsets } = layOutTiff({ ...shape, depth: 16 });
    const tiff = Buffer.concat([header.subarray(0, offsets[0]), pixels]);
    for (const bytes of [png, tiff]) {
      const { samples, depth, findings } = await taken(bytes);
      expect(depth).toBe(16);
      expect(findings.bitDepth).toBe(16);
      const expected = await sharp(bytes)
        .toColourspace('rgb16')
        .raw({ depth: 'ushort' })
        .toBuffer();
      expect(samples.equals(expected)).toBe(true);
    }
    const grey = await taken(await picture().toColourspace('grey16').png().toBuffer());
    expect(grey.depth).toBe(16);
    expect(grey.findings.notes.join()).toMatch(/Grey became sRGB/);
  });

  it('of several pages of a TIFF the one that is asked for', async () => {
    const pages = await Promise.all(
      [40, 90, 160].map((red) =>
        sharp({ create: { ...size, channels: 3, background: { r: red, g: 9, b: 9 } } })
          .png()
          .toBuffer(),
      ),
    );
    const bytes = await sharp(pages, { join: { animated: true } })
      .tiff()
      .toBuffer();
    const second = await taken(bytes, 2);
    expect(second.findings).toMatchObject({ ...size, page: 2, pages: 3 });
    expect(second.samples.equals(await plain(sharp(bytes, { page: 1 })))).toBe(true);
    expect(Math.abs(second.samples[0]! - 90)).toBeLessThan(4);
    await expect(taken(bytes, 4)).rejects.toThrow(/has 3 pages; there is no page 4/);
  });

  it('transparency is kept, in PNG, WebP and TIFF', async () => {
    const clear = picture().ensureAlpha(0.5);
    for (const encoded of [
      clear.clone().png(),
      clear.clone().webp({ lossless: true }),
      clear.clone().tiff({ compression: 'deflate' }),
    ]) {
      const bytes = await encoded.toBuffer();
      const { channels, findings, samples } = await taken(bytes);
      expect(channels).toBe(4);
      expect(findings.alpha).toBe(true);
      expect(samples.equals(await plain(bytes))).toBe(true);
      expect(samples[3]).toBeGreaterThan(120);
      expect(samples[3]).toBeLessThan(135);
    }
  });

  it('of a GIF that moves the first frame, and it is said', async () => {
    const frames = await Promise.all(
      ['#ff0000', '#00ff00'].map((background) =>
        sharp({ create: { ...size, channels: 3, background } })
          .png()
          .toBuffer(),
      ),
    );
    const moving = await sharp(frames, { join: { animated: true } })
      .gif()
      .toBuffer();
    const { samples, findings } = await taken(moving);
    expect([...samples.subarray(0, 3)]).toEqual([255, 0, 0]);
    expect(findings.notes.join()).toMatch(/first of 2 frames/);
  });
});

describe('colour', () => {
  const bright = { r: 255, g: 255, b: 255 };

  it('of CMYK JPEGs becomes sRGB the right way round, untagged ones by a general profile', async () => {
    const white = sharp({ create: { ...size, channels: 3, background: bright } });
    const bytes = await white.toColourspace('cmyk').jpeg({ quality: 95 }).toBuffer();
    // The marker that says how inks are counted.
    expect(bytes.includes(Buffer.from([0xff, 0xee]))).toBe(true);
    const { samples, findings } = await taken(bytes);
    expect(findings.channels).toBe(4);
    expect(findings.alpha).toBe(false);
    // Inverted, paper white would come out black.
    expect(Math.min(...samples)).toBeGreaterThan(245);
    expect(findings.notes.join()).toMatch(/CMYK/);
  });

  it('of YCCK JPEGs is the same as of plain CMYK ones', async () => {
    // 16 x 16 of no cyan, a fifth of magenta, three fifths of yellow, no black; inks inverted.
    const ycck =
      '/9j/7gAOQWRvYmUAZAAAAAAC/9sAQwABAQEBAQEBAQEBAQEBAQECAQEBAQECAQEBAgICAgICAgICAwMEAwMDAwMCAgMEAwMEBAQEBAIDBQUEBAUEBAQE/8AAFAgAEAAQBEMRAE0RAFkRAEsRAP/EABYAAQEBAAAAAAAAAAAAAAAAAAAJCv/EABQQAQAAAAAAAAAAAAAAAAAAAAD/2gAOBEMATQBZAEsAAD8Ay7rwJ3t/AAAAD//Z';
    const { samples, findings } = await taken(Buffer.from(ycck, 'base64'));
    expect(findings).toMatchObject({ width: 16, height: 16, channels: 4, alpha: false });
    const [red, green, blue] = samples;
    expect(red).toBeGreaterThan(245);
    expect(Math.abs(green! - 194)).toBeLessThan(12);
    expect(Math.abs(blue! - 105)).toBeLessThan(20);
  });

  it('of CMYK and Lab TIFFs becomes sRGB near what it was', async () => {
    for (const [space, tolerance] of [
      ['cmyk', 70],
      ['lab', 4],
    ] as const) {
      const soft = sharp({
        create: { ...size, channels: 3, background: { r: 150, g: 120, b: 90 } },
      });
      const { samples, profile } = await taken(await soft.toColourspace(space).tiff().toBuffer());
      expect(Math.abs(samples[0]! - 150)).toBeLessThan(tolerance);
      expect(profile).toBeNull();
    }
  });

  it('of a broken profile is taken as sRGB, and it is said', async () => {
    const tagged = await picture().withIccProfile('p3').png({ compressionLevel: 0 }).toBuffer();
    const tiff = await picture().withIccProfile('p3').tiff({ compression: 'none' }).toBuffer();
    const at = tiff.indexOf('acsp');
    tiff.write('xxxx', at, 'latin1');
    const { findings, profile, samples } = await taken(tiff);
    expect(profile).toBeNull();
    expect(findings.notes.join()).toMatch(/profile is broken and was set aside: taken as sRGB/);
    expect(samples.equals(await plain(sharp(tiff, { ignoreIcc: true })))).toBe(true);
    expect((await taken(tagged)).profile).not.toBeNull();
  });

  it('on the screen is what a colour engine makes of it, but where colours are cut off', async () => {
    const { icc } = await sharp(await picture().withIccProfile('p3').png().toBuffer()).metadata();
    const table = (await screenTable(icc!))!;
    const wide = await picture().withIccProfile('p3').png().toBuffer();
    const numbers = await sharp(wide, { ignoreIcc: true }).ensureAlpha().raw().toBuffer();
    const expected = await sharp(wide).toColourspace('srgb').removeAlpha().raw().toBuffer();
    const rgba = new Uint8ClampedArray(numbers);
    toScreenColours(rgba, table);
    const got = Buffer.from(rgba.filter((_, i) => i % 4 !== 3));
    const off = got.map((value, i) => Math.abs(value - expected[i]!));
    expect(off.reduce((sum, value) => sum + value) / off.length).toBeLessThan(0.4);
    expect(worst(got, expected)).toBeLessThanOrEqual(8);
    expect(await screenTable(Buffer.alloc(300))).toBeNull();
  });
});
