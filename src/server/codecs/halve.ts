import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import sharp from 'sharp';
import type { Size } from '@/core/raster/region';

/** Decoded pixels that are to be reduced, and where to. */
export interface HalveTask {
  raw: string;
  out: string;
  size: Size;
  depth: 8 | 16;
}

/** Writes decoded pixels at a smaller size, for looking from afar. */
export async function halve({ raw, out, size, depth }: HalveTask): Promise<void> {
  const part = `${out}.${randomUUID()}.part.v`;
  try {
    await sharp(raw, { limitInputPixels: false, ignoreIcc: true })
      .resize(size.width, size.height, { fit: 'fill', kernel: 'cubic', fastShrinkOnLoad: false })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .toFile(part);
    await rename(part, out);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
