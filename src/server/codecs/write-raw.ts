import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import type { Size } from '@/core/raster/region';
import { isDiskFull } from '../problem';
import { joinAlpha } from './extra-samples';
import { openRaw } from './raw';

/**
 * Decodes into libvips' own file form: a 64-byte header, then the samples, interleaved. Null where
 * the pixels can't be read whole.
 */
export async function writeRaw(image: Sharp, raw: string): Promise<Size | null> {
  // Two processes may come to decode the same page.
  const part = `${raw}.${randomUUID()}.part.v`;
  try {
    const { width, height } = await image.toFile(part);
    await rename(part, raw);
    return { width, height };
  } catch (error) {
    await rm(part, { force: true });
    if (isDiskFull(error)) throw error;
    return null;
  }
}

/** One of the samples beside a picture's colours, by its number among them. */
export const strengthsOf = (
  input: string | Buffer,
  page: number,
  extra: number,
  depth: 8 | 16,
): Sharp =>
  sharp(input, { limitInputPixels: false, failOn: 'none', page: page - 1 })
    .autoOrient()
    // Colours become one channel, behind which the others stand; the type knows of four.
    .toColourspace(depth === 16 ? 'grey16' : 'b-w')
    .extractChannel((1 + extra) as 3);

/** Decodes colours and transparency one after the other, and joins them. */
export async function writeJoined(
  colours: Sharp,
  strengths: Sharp,
  raw: string,
): Promise<Size | null> {
  const [first, second] = [`${raw}.${randomUUID()}.part.v`, `${raw}.${randomUUID()}.part.v`];
  const joined = `${raw}.${randomUUID()}.part.v`;
  try {
    const size = await writeRaw(colours, first);
    if (!size || !(await writeRaw(strengths, second))) return null;
    await joinAlpha(first, second, joined);
    await rename(joined, raw);
    return size;
  } finally {
    await Promise.all([first, second, joined].map((path) => rm(path, { force: true })));
  }
}

/** The share of rows at the end that hold nothing but what a decoder fills in. */
export async function missingShare(raw: string): Promise<number> {
  const source = await openRaw(raw);
  const { width, height } = source.size;
  try {
    let rows = 0;
    const last = await source.samples({ x: 0, y: height - 1, width, height: 1 });
    for (let y = height - 1; y >= 0; y--, rows++) {
      const row = await source.samples({ x: 0, y, width, height: 1 });
      if (!row.equals(last)) break;
    }
    return Math.min(1, Math.max(0.01, rows / height));
  } finally {
    await source.close();
  }
}
