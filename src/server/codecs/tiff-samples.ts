import type { Depth } from '@/core/raster/samples';
import { openSamples, type RawFile } from './raw';
import { withTiff } from './tiff-tags';

/** Opens an uncompressed TIFF of ours, whose strips lie one after the other. */
export async function openTiff(path: string): Promise<RawFile> {
  const form = await withTiff(path, async (tags) => {
    const number = async (tag: Parameters<typeof tags.loadValue>[0]) =>
      Number(await tags.loadValue(tag));
    const offsets = (await tags.loadValue('StripOffsets')) as ArrayLike<number | bigint>;
    const bits = (await tags.loadValue('BitsPerSample')) as ArrayLike<number>;
    return {
      size: { width: await number('ImageWidth'), height: await number('ImageLength') },
      channels: await number('SamplesPerPixel'),
      depth: (Number(bits[0]) === 16 ? 16 : 8) as Depth,
      start: Number(offsets[0]),
    };
  });
  return openSamples(path, form);
}
