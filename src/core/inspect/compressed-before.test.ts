import sharp, { type Sharp } from 'sharp';
import { describe, expect, it } from 'vitest';
import { fromSamples } from '../raster/samples';
import { tablesOf } from '../steps/compression/classical';
import { memorySource, testScene } from '../testing';
import { compressedBefore } from './compressed-before';
import { readJpegHeader } from './jpeg';
import { STANDARD_CHROMA, STANDARD_LUMA, tableAtQuality } from './jpeg-quality';
import { samplePicture } from './patches';

const size = { width: 512, height: 384 };

/** What is told of the scene, saved at qualities one after the other, cropped by some pixels after the first. */
async function toldOf(qualities: readonly number[], crop = { left: 0, top: 0 }) {
  const jpeg = (file: Sharp, quality: number) =>
    file.jpeg({ quality, chromaSubsampling: '4:2:0' }).toBuffer();
  let file = await jpeg(sharp(testScene(size), { raw: { ...size, channels: 3 } }), qualities[0]!);
  const part = { ...crop, width: size.width - crop.left, height: size.height - crop.top };
  for (const quality of qualities.slice(1)) file = await jpeg(sharp(file).extract(part), quality);
  const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
  const source = memorySource(fromSamples(data, info.width, info.height, 3, 8));
  const own = readJpegHeader(file)!.facts!;
  return { own, told: compressedBefore((await samplePicture(source)).patches, own) };
}

describe('compression before the present one', () => {
  it.each([
    [45, 80],
    [60, 90],
    [75, 95],
  ])('of quality %d is told of a file of quality %d, on the same grid', async (first, second) => {
    const { told } = await toldOf([first, second]);
    expect(told).toMatchObject({ x: 0, y: 0 });
    expect(Math.abs(told!.quality - first)).toBeLessThanOrEqual(2);
  });

  it('is told with the grid that it had, where the file was cropped since', async () => {
    const { told } = await toldOf([50, 92], { left: 3, top: 6 });
    expect(told).toMatchObject({ x: 5, y: 2 });
    expect(Math.abs(told!.quality - 50)).toBeLessThanOrEqual(2);
  });

  it('is none where there was one compression, or a coarser one since', async () => {
    for (const qualities of [[50], [75], [90], [98], [90, 50]]) {
      expect((await toldOf(qualities)).told).toBeNull();
    }
  });

  it('is what cleaning goes by, with the colour sampled as it is', async () => {
    const { own, told } = await toldOf([50, 92], { left: 3, top: 6 });
    expect(tablesOf({ jpeg: own, blocks: told })).toEqual({
      ...{ luma: tableAtQuality(STANDARD_LUMA, told!.quality), samplingX: 2, samplingY: 2 },
      ...{ chroma: tableAtQuality(STANDARD_CHROMA, told!.quality), gridX: -3, gridY: -6 },
    });
    const grey = { ...own, chroma: null, samplingX: 1, samplingY: 1 };
    expect(tablesOf({ jpeg: grey, blocks: told })).toMatchObject({ chroma: null, samplingX: 1 });
    expect(tablesOf({ jpeg: own, blocks: null }).luma).toEqual(own.luma);
  });

  it('tells nothing of a picture too small or too even for it', async () => {
    const { own } = await toldOf([80]);
    const flat = fromSamples(new Uint8Array(3 * 64 * 64).fill(90), 64, 64, 3, 8);
    const { patches } = await samplePicture(memorySource(flat));
    expect(compressedBefore(patches, own)).toBeNull();
    const tiny = fromSamples(new Uint8Array(3 * 5 * 7).fill(90), 5, 7, 3, 8);
    expect(compressedBefore((await samplePicture(memorySource(tiny))).patches, own)).toBeNull();
  });
});
