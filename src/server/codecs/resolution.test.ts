import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { numeric, ppiOf, taggedPpi } from './resolution';

const picture = (): Sharp =>
  sharp({ create: { width: 16, height: 12, channels: 3, background: '#468' } });

/** A JPEG with a JFIF header: its density's unit (0 none, 1 inch, 2 centimetre) and both numbers. */
async function jfif(unit: number, x: number, y: number): Promise<Buffer> {
  const bytes = await picture().jpeg().toBuffer();
  const header = Buffer.from([
    0xff,
    0xe0,
    0,
    16,
    ...Buffer.from('JFIF\0'),
    1,
    1,
    unit,
    0,
    0,
    0,
    0,
    0,
    0,
  ]);
  header.writeUInt16BE(x, 12);
  header.writeUInt16BE(y, 14);
  // Where another header begins the file it comes after this one.
  return Buffer.concat([bytes.subarray(0, 2), header, bytes.subarray(2)]);
}

describe('the resolution that a header says', () => {
  it.each([
    ['an inch', 1, 300, 300, { x: 300, y: 300 }],
    ['a centimetre', 2, 118, 118, { x: 299.72, y: 299.72 }],
    ['an inch, along each side another', 1, 200, 100, { x: 200, y: 100 }],
    ['no unit: an aspect alone', 0, 300, 300, null],
    ['a unit that there is none of', 9, 300, 300, null],
    ['1 to 1, which stands for none', 1, 1, 1, null],
    ['nothing', 1, 0, 0, null],
  ])('of a JPEG, in pixels to %s', async (_, unit, x, y, ppi) => {
    const found = taggedPpi(await jfif(unit, x, y)).jfif;
    if (ppi === null) expect(found).toBeNull();
    else {
      expect(found!.x).toBeCloseTo(ppi.x, 6);
      expect(found!.y).toBeCloseTo(ppi.y, 6);
    }
  });

  it('of a PNG is kept to the metre, and comes back as inches', async () => {
    const png = await picture().withMetadata({ density: 254 }).png().toBuffer();
    const { png: found } = taggedPpi(png);
    expect(found!.x).toBeCloseTo(254, 2);
    expect(found!.y).toBeCloseTo(254, 2);
  });

  it('of EXIF is told apart from the others', async () => {
    const jpeg = await picture().withMetadata({ density: 240 }).jpeg().toBuffer();
    expect(taggedPpi(jpeg)).toEqual({ png: null, jfif: null, exif: { x: 240, y: 240 } });
  });

  it.each([72, 150, 299.5])('of a TIFF is %d, wherever its tags lie', async (ppi) => {
    const tiff = await picture().withMetadata({ density: ppi }).tiff().toBuffer();
    const metadata = await sharp(tiff).metadata();
    expect(ppiOf(tiff, 'tiff', metadata)!.x).toBeCloseTo(ppi, 1);
    // Of a large file the first bytes alone are at hand.
    const behind = ppiOf(tiff.subarray(0, 8), 'tiff', metadata)!;
    expect(Math.abs(behind.x - ppi)).toBeLessThanOrEqual(0.5);
  });

  it('is none of a file that says none, whatever a library assumes', async () => {
    for (const format of ['jpeg', 'png', 'tiff', 'webp', 'gif'] as const) {
      const bytes = await picture().toFormat(format).toBuffer();
      const plain = format === 'jpeg' ? await jfif(0, 1, 1) : bytes;
      const metadata = await sharp(plain).metadata();
      expect(ppiOf(plain, format, metadata), format).toBeNull();
      expect(ppiOf(plain.subarray(0, 8), format, metadata), format).toBeNull();
    }
  });

  it('of a pixel to the millimetre is what programs write that know nothing; 26 to the inch is not', async () => {
    const of = async (density: number) => {
      const png = await picture().withMetadata({ density }).png().toBuffer();
      return ppiOf(png, 'png', await sharp(png).metadata());
    };
    expect(await of(25.4)).toBeNull();
    expect((await of(26))!.x).toBeCloseTo(26, 1);
  });

  it('is none of what is cut off or no picture, rather than trouble', () => {
    for (const bytes of [new Uint8Array(), Uint8Array.of(0xff, 0xd8, 0xff), Buffer.from('II*\0')])
      expect(taggedPpi(bytes)).toEqual({ png: null, jfif: null, exif: null });
  });
});

describe('a tag as a number', () => {
  it.each<[unknown, number | null]>([
    [72, 72],
    [[300, 1], 300],
    [[2999, 10], 299.9],
    [[1, 0], null],
    [[0, 0], null],
    ['300', null],
    [undefined, null],
    [[300], null],
    [Number.NaN, null],
  ])('%j is %d', (value, number) => expect(numeric(value)).toBe(number));
});
