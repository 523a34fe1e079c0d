import sharp from 'sharp';
import { jpegDamage, TRIED_QUALITIES, worst, type JpegCost } from '@/core/evidence/jpeg-cost';
import type { Output } from '@/core/output/output';
import type { Size } from '@/core/raster/region';

/** How a picture is compressed, whatever its quality. */
export type Compressed = Pick<Output, 'sampling' | 'progressive'>;

/** Interleaved RGB as a JPEG, as a result's file would have it. */
export const jpegOf = (
  rgb: Uint8Array,
  { width, height }: Size,
  { sampling, progressive }: Compressed,
  quality: number,
): Promise<Buffer> =>
  sharp(rgb, { raw: { width, height, channels: 3 } })
    .jpeg({ quality, chromaSubsampling: sampling, progressive })
    .toBuffer();

/**
 * What each quality costs a picture: its size, and its changes and blocks where they are worst.
 * @param places how many places of equal height lie below each other in it
 */
export async function jpegCosts(
  rgb: Uint8Array,
  size: Size,
  how: Compressed,
  places: number,
): Promise<JpegCost[]> {
  const part = rgb.length / places;
  const costs: JpegCost[] = [];
  for (const quality of TRIED_QUALITIES) {
    const jpeg = await jpegOf(rgb, size, how, quality);
    const decoded = await sharp(jpeg).raw().toBuffer();
    const bytes = jpeg.length / (size.width * size.height);
    const damages = Array.from({ length: places }, (_, i) => {
      const of = (samples: Uint8Array) => samples.subarray(i * part, (i + 1) * part);
      return jpegDamage(of(rgb), of(decoded), size.width);
    });
    costs.push({ quality, bytes, ...worst(damages) });
  }
  return costs;
}
