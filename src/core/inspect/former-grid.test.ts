import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { fromSamples } from '../raster/samples';
import { memorySource, random, testScene } from '../testing';
import { enlargedSinceBlocks, regularityOf, showsBlocks } from './former-grid';
import { inspectPixels } from './inspect';
import { readJpegHeader } from './jpeg';
import { rowBends, samplePicture } from './patches';

const size = { width: 640, height: 480 };
const scene = () => sharp(testScene(size), { raw: { ...size, channels: 3 } });

async function sourceOf(file: Buffer) {
  const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
  return memorySource(fromSamples(data, info.width, info.height, 3, 8));
}

/** The scene as a JPEG that is enlarged and saved again. */
async function enlarged(factor: number, kernel: 'cubic' | 'lanczos3' = 'cubic') {
  const once = await scene().jpeg({ quality: 40 }).toBuffer();
  const width = Math.round(size.width * factor);
  const height = Math.round(size.height * factor);
  const file = await sharp(once)
    .resize({ width, height, fit: 'fill', kernel })
    .jpeg({ quality: 85 })
    .toBuffer();
  return { file, source: await sourceOf(file) };
}

async function toldOf(file: Buffer): Promise<number | null> {
  const source = await sourceOf(file);
  const across = regularityOf((await samplePicture(source)).columnBends)!;
  const down = regularityOf(await rowBends(source))!;
  return enlargedSinceBlocks(across, down);
}

describe('blocks that were enlarged', () => {
  it.each([
    [1.3, 'cubic'],
    [1.5, 'lanczos3'],
    [2.2, 'cubic'],
  ] as const)('tell that it was made %d times as large', async (factor, kernel) => {
    const { file, source } = await enlarged(factor, kernel);
    const told = await toldOf(file);
    expect(Math.abs(told! / factor - 1)).toBeLessThan(0.012);
    const { findings } = await inspectPixels(source, readJpegHeader(file)!.facts);
    expect(findings.enlarged).toBe(told);
    expect(findings.detail).toBeLessThanOrEqual(1 / told! ** 2);
  });

  it('are none where it is as it was compressed, once or twice, or never was', async () => {
    const once = await scene().jpeg({ quality: 40 }).toBuffer();
    const cropped = await sharp(once).extract({ left: 3, top: 5, width: 600, height: 440 });
    const files = [
      once,
      await sharp(once).png().toBuffer(),
      await cropped.jpeg({ quality: 90 }).toBuffer(),
      await scene().png().toBuffer(),
    ];
    for (const file of files) expect(await toldOf(file)).toBeNull();
  });

  it('are not looked for where there is too little', () => {
    expect(regularityOf(new Float64Array(100))).toBeNull();
    expect(regularityOf(new Float64Array(400).fill(0.7))).toBeNull();
    // A drawn pattern is as regular as can be.
    expect(regularityOf(Float64Array.from({ length: 400 }, (_, i) => (i % 17) / 9999))).toBeNull();
    const next = random(5);
    const chance = regularityOf(Float64Array.from({ length: 400 }, next))!;
    expect(showsBlocks(chance)).toBe(false);
    expect(enlargedSinceBlocks(chance, chance)).toBeNull();
  });
});
