import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FileName } from '@/core/shop/job';
import { openRaw } from '../codecs/raw';
import { layOutTiff } from '../output/tiff-layout';
import { pngHeader } from '../output/png-chunks';
import { pngOf } from '../testing/png';
import { openTestShop, streamOf, testJpeg, testPixels, type TestShop } from '../testing/shop';
import { store } from './store';
import { reducedPath } from './reduced';
import { decodedPath, inspectedPage, takeIn } from './take-in';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

const take = (bytes: Uint8Array, name = 'picture.jpg') => takeIn(shop.db, streamOf(bytes), name);

/** A PNG that claims a size in its header and holds next to nothing. */
const claimingPng = (width: number, height: number, interlaced = 0): Buffer =>
  pngOf([
    ['IHDR', pngHeader(width, height, { interlaced })],
    ['IDAT', deflateSync(Buffer.alloc(100))],
    ['IEND', Buffer.alloc(0)],
  ]);

/** The header of a TIFF that promises so many pixels. */
const claimingTiff = (width: number, height: number): Buffer =>
  layOutTiff({
    ...{ size: { width, height }, depth: 8, channels: 3, ppi: 72, profile: null },
    ...{ space: 'rgb', rowsPerStrip: height },
  }).header;

/** A JPEG whose frame header claims far more pixels than follow. */
async function claimingJpeg(): Promise<Buffer> {
  const bytes = await testJpeg(64, 48);
  const frame = bytes.indexOf(Buffer.from([0xff, 0xc0]));
  bytes.writeUInt16BE(60_000, frame + 5);
  bytes.writeUInt16BE(60_000, frame + 7);
  return bytes;
}

describe('taking in', () => {
  it('keeps the original byte for byte, and finds out about it', async () => {
    const bytes = await testJpeg(123, 77, 40);
    const { digest, findings, known } = await take(bytes);
    expect(known).toBe(false);
    expect(await readFile(store.original(digest))).toEqual(bytes);
    expect(findings).toMatchObject({
      width: 123,
      height: 77,
      format: 'jpeg',
      bytes: bytes.length,
      ppi: null,
      profile: null,
      jpeg: { quality: 40, samplingX: 2, samplingY: 2, progressive: false },
    });
    expect(findings.notes).toContain('No colour profile: taken as sRGB.');
    expect((await sharp(store.thumbnail(digest, 1)).metadata()).width).toBe(123);
  });

  it('offers what could be read of a file that is cut off, marked as damaged', async () => {
    const bytes = await testJpeg(300, 200, 80);
    const half = await take(bytes.subarray(0, bytes.length * 0.6), 'half.jpg');
    expect(half.findings.damaged).toBeGreaterThan(0.15);
    expect(half.findings.damaged).toBeLessThan(0.75);
    expect(half.findings.notes.join()).toMatch(/cut off or damaged: about \d+ % .* is missing/);
    const source = await openRaw(store.raw(half.digest, 1));
    const expected = await sharp(bytes).extract({ left: 0, top: 0, width: 300, height: 8 });
    const rows = await source.samples({ x: 0, y: 0, width: 300, height: 8 });
    expect(rows.equals(await expected.raw().toBuffer())).toBe(true);
    await source.close();
    const png = await testPixels(300, 200).png().toBuffer();
    const cut = await take(png.subarray(0, png.length * 0.5), 'half.png');
    expect(cut.findings.damaged).toBeGreaterThan(0.2);
  });

  it('decodes again what was cleared away, once for all who ask, and forgets halved copies', async () => {
    const { digest } = await take(await testJpeg(310, 200));
    const page = await inspectedPage(shop.db, digest, 1);
    const halved = await reducedPath(page, 1);
    const raw = store.raw(digest, 1);
    const before = await readFile(raw);
    await rm(raw);
    const paths = await Promise.all([1, 2, 3].map(() => decodedPath(digest, 'p.jpg', 1)));
    expect(new Set(paths)).toEqual(new Set([raw]));
    expect((await readFile(raw)).equals(before)).toBe(true);
    await expect(readFile(halved)).rejects.toThrow(/ENOENT/);
    const again = await openRaw(await reducedPath(page, 1));
    expect(again.size).toEqual({ width: 155, height: 100 });
    await again.close();
  });

  it('recognises the same file and stores it once', async () => {
    const bytes = await testJpeg(50, 50);
    const first = await take(bytes, 'a.jpg');
    const again = await take(bytes, 'b.jpg');
    expect(again).toMatchObject({ digest: first.digest, known: true, fileName: 'b.jpg' });
    expect(await shop.db('originals').where({ digest: first.digest })).toHaveLength(1);
    expect(await readdir(store.uploads())).toEqual([]);
  });

  it('reads the resolution tag that is there, exactly', async () => {
    const jpeg = await testPixels(40, 30).withDensity(240).jpeg().toBuffer();
    expect((await take(jpeg)).findings.ppi?.x).toBeCloseTo(240, 1);
    const png = await testPixels(40, 30).withDensity(300).png().toBuffer();
    const { findings } = await take(png, 'p.png');
    expect(findings.ppi?.x).toBeCloseTo(300, 1);
    expect(findings.jpeg).toBeNull();
  });

  it('keeps RGB numbers in their own profile, and carries it along', async () => {
    const bytes = await testPixels(32, 32).withIccProfile('p3').png().toBuffer();
    const { digest, findings } = await take(bytes, 'wide.png');
    const plain = await sharp(bytes, { ignoreIcc: true }).raw().toBuffer();
    const source = await openRaw(store.raw(digest, 1));
    expect(await source.samples({ x: 0, y: 0, width: 32, height: 32 })).toEqual(plain);
    await source.close();
    expect(findings.profile).toMatch(/p3/i);
    const row = await shop.db('pages').where({ digest }).first('profile');
    expect(row.profile).toEqual((await sharp(bytes).metadata()).icc);
  });

  it('turns pictures upright, keeps 16 bits and transparency, and says what it did', async () => {
    const turned = await testPixels(40, 24).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    expect((await take(turned)).findings).toMatchObject({ width: 24, height: 40, orientation: 6 });
    const deep = await testPixels(20, 20).toColourspace('rgb16').png().toBuffer();
    expect((await take(deep, 'deep.png')).findings.bitDepth).toBe(16);
    const clear = await testPixels(20, 20).ensureAlpha(0).png().toBuffer();
    const { digest, findings } = await take(clear, 'clear.png');
    expect(findings).toMatchObject({ alpha: true, channels: 4 });
    const source = await openRaw(store.raw(digest, 1));
    expect((await source.samples({ x: 0, y: 0, width: 1, height: 1 }))[3]).toBe(0);
    await source.close();
    const cmyk = await testPixels(20, 20).toColourspace('cmyk').jpeg().toBuffer();
    expect((await take(cmyk, 'print.jpg')).findings.notes.join()).toMatch(/CMYK/);
  });
});

describe('files that cannot be used', () => {
  const cases: [string, () => Promise<Buffer>, RegExp][] = [
    ['empty.jpg', () => Promise.resolve(Buffer.alloc(0)), /empty\.jpg is empty/],
    [
      'letter.jpg',
      () => Promise.resolve(Buffer.from('Dear printers, enclosed …')),
      /not a picture/,
    ],
    ['header.jpg', async () => (await testJpeg(300, 200)).subarray(0, 160), /damaged/],
    [
      'huge.png',
      () => Promise.resolve(claimingPng(60_000, 60_000)),
      /60000 x 60000 pixels, more than is taken in/,
    ],
    [
      'woven.png',
      () => Promise.resolve(claimingPng(20_000, 10_000, 1)),
      /more than is taken in of such a file \(110 megapixels\)/,
    ],
    ['huge.jpg', claimingJpeg, /60000 x 60000 pixels, more than is taken in/],
    ['huge.tif', () => Promise.resolve(claimingTiff(60_000, 60_000)), /more than is taken in/],
    ['hollow.png', () => Promise.resolve(claimingPng(400, 300)), /cut off or damaged/],
    ['layers.tif', () => Promise.resolve(Buffer.from('8BPS\0\x01 …')), /Ask for a flattened TIFF/],
    ['phone.heic', () => Promise.resolve(Buffer.from('\0\0\0 ftypheic …')), /Ask for a JPEG/],
    ['drawing.eps', () => Promise.resolve(Buffer.from('%!PS-3.0')), /Ask for a PDF/],
    [
      'pictures.zip',
      () => Promise.resolve(Buffer.from('PK\x03\x04 …')),
      /Ask for the picture itself/,
    ],
    ['leaf.pdf', () => Promise.resolve(Buffer.from('%PDF-1.7 …')), /a damaged PDF/],
    ['banner.svg', () => Promise.resolve(Buffer.from('<svg xmlns="…"/>')), /can't be drawn/],
  ];

  it.each(cases)(
    '%s is answered in words and leaves nothing behind',
    async (name, bytes, words) => {
      const before = await shop.db('originals').count({ n: '*' }).first();
      await expect(take(await bytes(), name)).rejects.toMatchObject({
        kind: 'input',
        message: expect.stringMatching(words),
      });
      expect(await readdir(store.uploads())).toEqual([]);
      expect(await shop.db('originals').count({ n: '*' }).first()).toEqual(before);
      const decoded = await readdir(join(shop.folder, 'decoded'), { recursive: true });
      expect(decoded.filter((file) => file.includes('.part'))).toEqual([]);
    },
  );

  it('an upload over the limit is stopped on its way', async () => {
    process.env.LONTANO_UPLOAD_MB = '0.001';
    try {
      await expect(take(await testJpeg(300, 300), 'large.jpg')).rejects.toThrow(
        /larger than 1.0 kB/,
      );
    } finally {
      delete process.env.LONTANO_UPLOAD_MB;
    }
    expect(await readdir(store.uploads())).toEqual([]);
  });

  it.each([
    ['../../etc/passwd', 'passwd'],
    ['C:\\fakepath\\picture.jpg', 'picture.jpg'],
    ['a"b<img src=x>.jpg', 'a"b<img src=x>.jpg'],
    ['line\nbreak\u202e.jpg', 'linebreak.jpg'],
    ['', 'unnamed'],
    [`${'x'.repeat(300)}.jpg`, `${'x'.repeat(80)}…${'x'.repeat(26)}.jpg`],
  ])('the name %j is shown as %j and never becomes a path', (name, shown) => {
    expect(FileName.parse(name)).toBe(shown);
    expect(() => store.original(name)).toThrow(/no such file/);
    expect(() => store.result(name)).toThrow(/no such file/);
  });
});
