import sharp from 'sharp';
import { TABLE_SIDE } from '@/core/raster/screen';
import { layOutTiff } from '../output/tiff-layout';

/** Whether a profile is one by its own header, and for which colours ('RGB ', 'CMYK', 'GRAY', 'Lab '). */
export function profileSpace(icc: Uint8Array): string | null {
  const bytes = Buffer.from(icc.buffer, icc.byteOffset, icc.length);
  if (bytes.length < 132 || bytes.toString('latin1', 36, 40) !== 'acsp') return null;
  if (bytes.readUInt32BE(0) > bytes.length) return null;
  return bytes.toString('latin1', 16, 20);
}

/**
 * How an RGB profile's colours look on an sRGB screen: a cube of RGB bytes, red slowest. Null where the profile can't be used.
 */
export async function screenTable(profile: Uint8Array): Promise<Buffer | null> {
  if (profileSpace(profile) !== 'RGB ') return null;
  const width = TABLE_SIDE * TABLE_SIDE;
  const height = TABLE_SIDE;
  const samples = Buffer.alloc(width * height * 3);
  const level = (i: number) => Math.round((i * 255) / (TABLE_SIDE - 1));
  for (let r = 0, at = 0; r < TABLE_SIDE; r++) {
    for (let g = 0; g < TABLE_SIDE; g++) {
      for (let b = 0; b < TABLE_SIDE; b++, at += 3) {
        samples[at] = level(r);
        samples[at + 1] = level(g);
        samples[at + 2] = level(b);
      }
    }
  }
  const size = { width, height };
  const { header, offsets } = layOutTiff({
    size,
    depth: 8,
    channels: 3,
    space: 'rgb',
    ppi: 72,
    profile,
    rowsPerStrip: height,
  });
  const tiff = Buffer.concat([header.subarray(0, offsets[0]), samples]);
  try {
    const table = await sharp(tiff).toColourspace('srgb').removeAlpha().raw().toBuffer();
    return table.length === samples.length ? table : null;
  } catch {
    return null;
  }
}
