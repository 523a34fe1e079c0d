import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import sharp from 'sharp';
import type { Output } from '@/core/recipe/output';

/** File ending by output format. */
export const ENDING: Record<Output['format'], string> = { tiff: 'tif', jpeg: 'jpg', png: 'png' };

/**
 * Makes the finished TIFF into another format. Pixels, resolution and profile are carried over
 * untouched; sharp streams both files.
 */
export async function encodeFromTiff(
  tiff: string,
  out: string,
  output: Output,
  ppi: number,
): Promise<void> {
  const image = sharp(tiff, {
    limitInputPixels: false,
    unlimited: true,
    ignoreIcc: true,
    sequentialRead: true,
  })
    .keepIccProfile()
    .withDensity(ppi);
  if (output.format === 'png') {
    await image
      .toColourspace(output.depth === 16 ? 'rgb16' : 'srgb')
      .png({ compressionLevel: 6 })
      .toFile(out);
    return;
  }
  // Full colour sampling from 90 on: there the file is meant to be as good as it can be.
  const chromaSubsampling = output.quality >= 90 ? '4:4:4' : '4:2:0';
  await image.jpeg({ quality: output.quality, chromaSubsampling }).toFile(out);
  await addJfifHeader(out, ppi);
}

/**
 * sharp gives a JPEG's resolution in EXIF alone; many programs look in the JFIF header first.
 * Writes the file once more with that header in front (JFIF 1.02).
 */
async function addJfifHeader(path: string, ppi: number): Promise<void> {
  const density = Math.min(65_535, Math.max(1, Math.round(ppi)));
  const header = Buffer.from([
    0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 1, 0, 0, 0, 0, 0, 0,
  ]);
  header.writeUInt16BE(density, 14);
  header.writeUInt16BE(density, 16);
  const beside = `${path}.jfif`;
  const target = await open(beside, 'w');
  await target.write(header);
  await target.close();
  await pipeline(createReadStream(path, { start: 2 }), createWriteStream(beside, { flags: 'a' }));
  await rename(beside, path);
}
