import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import sharp from 'sharp';

/** Longest side of a thumbnail, in pixels. */
const THUMBNAIL = 264;

/** A small upright picture for the board, in sRGB. */
export async function writeThumbnail(
  input: string | Buffer,
  page: number,
  path: string,
): Promise<void> {
  const part = `${path}.${randomUUID()}.part`;
  try {
    await sharp(input, { limitInputPixels: false, failOn: 'none', page: page - 1 })
      .autoOrient()
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true })
      .png()
      .toFile(part);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
