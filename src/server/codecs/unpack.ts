import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import sharp from 'sharp';
import type { Depth } from '@/core/raster/samples';

/** A file that we wrote, and where its pixels go. */
export interface UnpackTask {
  file: string;
  out: string;
  depth: Depth;
}

/** Writes the pixels of a result that was compressed, as they are, so that any part of them can be read. */
export async function unpack({ file, out, depth }: UnpackTask): Promise<void> {
  const part = `${out}.${randomUUID()}.part.v`;
  try {
    await sharp(file, {
      limitInputPixels: false,
      unlimited: true,
      sequentialRead: true,
      ignoreIcc: true,
    })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .toFile(part);
    await rename(part, out);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
