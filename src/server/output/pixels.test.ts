import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testPicture } from '@/core/testing';
import { toSamples, type Depth } from '@/core/raster/samples';
import { decodedRows, differingRows, lossyDifference, mostDifference, tiffRows } from './pixels';
import { rowSum } from './samples';
import { layOutTiff } from './tiff-layout';

const size = { width: 90, height: 61 };
const picture = testPicture(size);
/** Two columns, as threads write them. */
const parts = [
  { x: 0, y: 0, width: 48, height: 61 },
  { x: 48, y: 0, width: 42, height: 61 },
];
let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'lontano-check-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

async function written(depth: Depth) {
  const samples = toSamples(picture, depth);
  const bytes = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);
  const about = { size, depth, channels: 3, space: 'rgb' as const };
  const layout = layOutTiff({ ...about, ppi: 160, profile: null, rowsPerStrip: 7 });
  const path = join(folder, `${depth}.tif`);
  await writeFile(path, Buffer.concat([layout.header, bytes]));
  const pixelBytes = (3 * depth) / 8;
  const sums = parts.map((part) => ({
    part,
    sums: Uint32Array.from({ length: part.height }, (_, y) => {
      const at = (y * size.width + part.x) * pixelBytes;
      return rowSum(bytes.subarray(at, at + part.width * pixelBytes));
    }),
  }));
  return { path, about, sums, start: layout.offsets[0]! };
}

describe.each([8, 16] as const)('a lossless file of %d bits', (depth) => {
  it('is read back to the last sample', async () => {
    const { path, about, sums } = await written(depth);
    for (const rows of [tiffRows, decodedRows]) {
      expect(await differingRows(rows(path, about), about, sums)).toBe(0);
    }
    const png = join(folder, `${depth}.png`);
    const image = sharp(path).toColourspace(depth === 16 ? 'rgb16' : 'srgb');
    await image.png().toFile(png);
    expect(await differingRows(decodedRows(png, about), about, sums)).toBe(0);
  });

  it('shows a single sample that is off, and rows that are missing', async () => {
    const { path, about, sums, start } = await written(depth);
    const bytes = await readFile(path);
    bytes[start + 3000]! ^= 1;
    await writeFile(path, bytes);
    for (const rows of [tiffRows, decodedRows]) {
      expect(await differingRows(rows(path, about), about, sums)).toBe(1);
      expect(await differingRows(rows(path, about), about, [])).toBe(size.height);
    }
    const taller = { ...about, size: { ...size, height: 64 } };
    expect(await differingRows(decodedRows(path, taller), taller, sums)).toBe(4);
    expect(await differingRows(tiffRows(path, taller), taller, sums)).toBeGreaterThan(3);
  });
});

describe('a JPEG', () => {
  it('is as far off as its quality says, and not as another picture', async () => {
    const { path, about, start } = await written(8);
    const from = { path, start, ...about };
    for (const quality of [98, 60, 20]) {
      const jpeg = join(folder, `${quality}.jpg`);
      await sharp(path).jpeg({ quality, chromaSubsampling: '4:4:4' }).toFile(jpeg);
      const difference = await lossyDifference(decodedRows(jpeg, from), from);
      expect(difference).toBeGreaterThan(0);
      expect(difference).toBeLessThan(mostDifference(quality));
    }
    const other = join(folder, 'other.jpg');
    await sharp(path).negate().jpeg({ quality: 90 }).toFile(other);
    expect(await lossyDifference(decodedRows(other, from), from)).toBeGreaterThan(
      mostDifference(90),
    );
  });
});
