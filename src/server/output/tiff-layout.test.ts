import { randomUUID } from 'node:crypto';
import { rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { complaints, readDescription } from './described';
import { layOutTiff, type TiffDescription } from './tiff-layout';

const described = (change: Partial<TiffDescription> = {}): TiffDescription => ({
  size: { width: 37, height: 23 },
  depth: 8,
  channels: 3,
  ppi: 160,
  profile: null,
  space: 'rgb',
  rowsPerStrip: 5,
  ...change,
});

/** A file with pixels that count up, strips written last to first. */
function build(description: TiffDescription): { file: Buffer; pixels: Buffer } {
  const { size, depth, rowsPerStrip } = description;
  const layout = layOutTiff(description);
  const pixels = Buffer.from(
    Uint8Array.from(
      { length: size.width * size.height * 3 * (depth / 8) },
      (_, i) => (i * 7) % 251,
    ),
  );
  const file = Buffer.alloc(layout.bytes);
  layout.header.copy(file);
  const stripBytes = rowsPerStrip * size.width * 3 * (depth / 8);
  [...layout.offsets.entries()].reverse().forEach(([i, offset]) => {
    pixels.subarray(i * stripBytes, (i + 1) * stripBytes).copy(file, offset);
  });
  return { file, pixels };
}

describe('the TIFF writer', () => {
  it.each([8, 16] as const)('writes %d bits that another reader reads', async (depth) => {
    const { file, pixels } = build(described({ depth }));
    const { data, info } = await sharp(file, { ignoreIcc: true })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .raw(depth === 16 ? { depth: 'ushort' } : {})
      .toBuffer({ resolveWithObject: true });
    expect(info).toMatchObject({ width: 37, height: 23, channels: 3 });
    expect(data.equals(pixels)).toBe(true);
    expect((await sharp(file).metadata()).density).toBe(160);
  });

  it('carries a profile, and a resolution that is no whole number', async () => {
    const { icc } = await sharp(
      await sharp(build(described()).file).withIccProfile('p3').png().toBuffer(),
    ).metadata();
    const { file } = build(described({ profile: icc!, ppi: 96.77 }));
    const path = join(tmpdir(), `${randomUUID()}.tif`);
    await writeFile(path, file);
    const found = await readDescription(path, 'tiff');
    await rm(path);
    expect(found).toMatchObject({
      width: 37,
      height: 23,
      bytes: file.length,
    });
    expect(Buffer.compare(found.profile!, icc!)).toBe(0);
    expect(found.ppi!.x).toBeCloseTo(96.77, 4);
    expect(
      complaints(found, { size: { width: 37, height: 23 }, ppi: 96.77, profile: icc! }, 'tiff'),
    ).toEqual([]);
  });

  it('turns to 64-bit offsets where the file passes 4 GB', () => {
    const size = { width: 60_000, height: 40_000 };
    const { header, offsets, bytes } = layOutTiff(described({ size, rowsPerStrip: 64 }));
    expect(header.readUInt16LE(2)).toBe(43);
    expect(bytes).toBe(header.length + 60_000 * 40_000 * 3);
    expect(offsets.at(-1)).toBeGreaterThan(2 ** 32);
    expect(layOutTiff(described()).header.readUInt16LE(2)).toBe(42);
  });
});

describe('the check of a written file', () => {
  const good = { width: 100, height: 50, ppi: { x: 160, y: 160 }, profile: null, bytes: 9 };
  const expected = { size: { width: 100, height: 50 }, ppi: 160, profile: null };

  it.each([
    [{ width: 99 }, /99 x 50 pixels instead of 100 x 50/],
    [{ ppi: null }, /no resolution/],
    [{ ppi: { x: 72, y: 72 } }, /72 ppi instead of 160/],
    [{ profile: new Uint8Array(12) }, /profile/],
  ])('finds %o', (change, words) => {
    expect(complaints({ ...good, ...change }, expected, 'tiff').join()).toMatch(words);
    expect(complaints(good, expected, 'tiff')).toEqual([]);
  });

  it('allows what the tag of a format can hold', () => {
    const metric = { ...good, ppi: { x: 6299 * 0.0254, y: 6299 * 0.0254 } };
    expect(complaints(metric, expected, 'png')).toEqual([]);
    expect(complaints(metric, expected, 'tiff')).not.toEqual([]);
  });
});
