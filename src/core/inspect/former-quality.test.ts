import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { fromSamples } from '../raster/samples';
import { memorySource, testContext, testScene } from '../testing';
import { compression } from '../steps/compression/compression';
import { formerQuality } from './former-quality';
import { inspectPixels } from './inspect';
import { STANDARD_LUMA, tableAtQuality } from './jpeg-quality';
import { samplePicture } from './patches';

const size = { width: 384, height: 256 };

const raw = { raw: { ...size, channels: 3 as const } };
const once = async (quality: number, left = 0, top = 0) => {
  const jpeg = await sharp(testScene(size), raw).jpeg({ quality }).toBuffer();
  const part = { left, top, width: size.width - left, height: size.height - top };
  const pixels = await sharp(jpeg).extract(part).raw().toBuffer();
  return memorySource(fromSamples(pixels, part.width, part.height, 3, 8));
};

describe('the quality that a file had before', () => {
  it.each([10, 25, 40, 55, 70, 82])('%d is found in its pixels', async (quality) => {
    const { patches } = await samplePicture(await once(quality));
    expect(Math.abs(formerQuality(patches, { x: 0, y: 0 })! - quality)).toBeLessThanOrEqual(2);
  });

  it('is found where a crop moved the grid, and the step takes its tables', async () => {
    const { findings } = await inspectPixels(await once(30, 3, 5));
    expect(findings.blocking.ratio).toBeGreaterThan(1.08);
    expect(findings.blocking).toMatchObject({ offsetX: 5, offsetY: 3 });
    expect(Math.abs(findings.formerQuality! - 30)).toBeLessThanOrEqual(2);
    const blocks = { x: 5, y: 3, quality: findings.formerQuality };
    const settings = { engine: 'classical', luma: 'auto', colour: 'auto' } as const;
    const numbers = compression.resolve(settings, testContext(size, { blocks }))!;
    expect(numbers.luma).toEqual(tableAtQuality(STANDARD_LUMA, findings.formerQuality!));
    expect([numbers.gridX, numbers.gridY]).toEqual([-3, -5]);
    const unknown = testContext(size, { blocks: { ...blocks, quality: null } });
    expect(compression.resolve(settings, unknown)!.luma).toEqual(tableAtQuality(STANDARD_LUMA, 40));
  });

  it('is unknown where there was none', async () => {
    const source = memorySource(fromSamples(testScene(size), size.width, size.height, 3, 8));
    const { patches } = await samplePicture(source);
    expect(formerQuality(patches, { x: 0, y: 0 })).toBeNull();
    expect((await inspectPixels(source)).findings.formerQuality).toBeNull();
    expect(formerQuality([], { x: 0, y: 0 })).toBeNull();
  });
});
