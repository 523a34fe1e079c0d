import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testPixels } from '../testing/shop';
import { decode } from './decode';
import { decodeTask } from './decoded';
import { profileName } from './profile';
import { openRaw } from './raw';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-codecs-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let count = 0;
const place = (ending: string) => join(folder, `${++count}.${ending}`);

async function decoded(bytes: Buffer, ending = 'jpg') {
  const file = place(ending);
  await writeFile(file, bytes);
  const raw = place('raw');
  return { ...(await decode(decodeTask(file, raw, 'picture'))), raw };
}

/** A JPEG whose JFIF header carries a density in a unit: 0 none, 1 per inch, 2 per centimetre. */
async function withDensity(unit: number, x: number, y: number): Promise<Buffer> {
  const bytes = await testPixels(24, 16).jpeg().toBuffer();
  const header = Buffer.from([
    0xff,
    0xd8,
    0xff,
    0xe0,
    0,
    16,
    0x4a,
    0x46,
    0x49,
    0x46,
    0,
    1,
    2,
    unit,
    0,
    x,
    0,
    y,
    0,
    0,
  ]);
  return Buffer.concat([header, bytes.subarray(2)]);
}

describe('the resolution tag', () => {
  it('is read in inches and centimetres, and missing where it is none', async () => {
    expect((await decoded(await withDensity(1, 200, 200))).findings.ppi).toEqual({
      x: 200,
      y: 200,
    });
    const metric = (await decoded(await withDensity(2, 100, 50))).findings.ppi!;
    expect(metric.x).toBeCloseTo(254, 9);
    expect(metric.y).toBeCloseTo(127, 9);
    // A ratio of pixel sides is no resolution, nor is one pixel per inch.
    expect((await decoded(await withDensity(0, 72, 72))).findings.ppi).toBeNull();
    expect((await decoded(await withDensity(1, 1, 1))).findings.ppi).toBeNull();
    const png = await testPixels(9, 9).png().toBuffer();
    const tag = png.indexOf('pHYs') - 4;
    const untagged = Buffer.concat([png.subarray(0, tag), png.subarray(tag + 21)]);
    expect((await decoded(untagged, 'png')).findings.ppi).toBeNull();
  });
});

describe('decoded pixels', () => {
  it('are the file’s samples, in any region, at both depths', async () => {
    const deep = await testPixels(50, 40).toColourspace('rgb16').linear(1, 77).png().toBuffer();
    const { raw, findings } = await decoded(deep, 'png');
    expect(findings.bitDepth).toBe(16);
    const source = await openRaw(raw);
    const region = { x: 7, y: 5, width: 31, height: 22 };
    const expected = await sharp(deep)
      .toColourspace('rgb16')
      .extract({ left: 7, top: 5, width: 31, height: 22 })
      .raw({ depth: 'ushort' })
      .toBuffer();
    expect((await source.samples(region)).equals(expected)).toBe(true);
    const raster = await source.read(region);
    expect(raster.planes[1]![0]).toBeCloseTo(expected.readUInt16LE(2) / 65535, 7);
    await source.close();
  });

  it('of grey files become three equal channels', async () => {
    const grey = await testPixels(16, 16).toColourspace('b-w').jpeg().toBuffer();
    const { raw, findings } = await decoded(grey);
    expect(findings.notes.join()).toMatch(/Grey became sRGB/);
    const source = await openRaw(raw);
    const { planes } = await source.read({ x: 0, y: 0, width: 16, height: 16 });
    expect(planes[0]).toEqual(planes[1]);
    expect(planes[1]).toEqual(planes[2]);
    await source.close();
  });

  it('are not anything else', async () => {
    const other = place('raw');
    await writeFile(other, Buffer.alloc(200, 7));
    await expect(openRaw(other)).rejects.toThrow(/not decoded pixels/);
  });
});

describe('profile names', () => {
  it('are read from the profile, and plain words stand for unreadable ones', async () => {
    const { icc } = await sharp(
      await testPixels(8, 8).withIccProfile('srgb').png().toBuffer(),
    ).metadata();
    expect(profileName(icc!)).toMatch(/srgb/i);
    expect(profileName(Buffer.alloc(10))).toBe('unnamed profile');
    for (let end = 0; end < icc!.length; end += 7) {
      expect(typeof profileName(icc!.subarray(0, end))).toBe('string');
    }
  });
});
