import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExifReader from 'exifreader';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { usualOutput } from '@/core/output/output';
import { CORE_VERSION, Recipe } from '@/core/recipe/recipe';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { testPixels } from '../testing/shop';
import { exifBlock, keptExif, type KeptExif } from './exif';
import { packStrip } from './strip';
import { writerOf } from './writer';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-exif-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const kept: KeptExif = {
  IFD0: { Make: 'Lens & Plate', Artist: 'Zoe Angstrom', Copyright: '1926 Observatory' },
  IFD2: { DateTimeOriginal: '1926:12:08 23:10:00' },
};

describe('what is kept of EXIF', () => {
  it('is who made it with what and when, never where', async () => {
    const path = join(folder, 'camera.jpg');
    const jpeg = testPixels(40, 30)
      .withExif({
        ...kept,
        IFD0: { ...kept.IFD0, Software: 'Something' },
        IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '47/1 3/1 0/1' },
      })
      .jpeg();
    await jpeg.toFile(path);
    expect(await keptExif(path)).toEqual(kept);
  });

  it('is nothing of a file without, or one that can’t be read', async () => {
    const plain = join(folder, 'plain.png');
    await testPixels(8, 8).png().toFile(plain);
    expect(await keptExif(plain)).toBeNull();
    await writeFile(plain, 'no picture');
    expect(await keptExif(plain)).toBeNull();
    expect(await keptExif(join(folder, 'nothing.jpg'))).toBeNull();
  });

  it('is one line, however a file words it', async () => {
    const path = join(folder, 'long.jpg');
    const Artist = `two\nlines ${'x'.repeat(5000)}`;
    await testPixels(8, 8).withExif({ IFD0: { Artist } }).jpeg().toFile(path);
    const artist = (await keptExif(path))!.IFD0['Artist']!;
    expect(artist).toMatch(/^two lines x+$/);
    expect(artist.length).toBe(200);
  });
});

describe('a result', () => {
  it.each(['tiff', 'jpeg', 'png', 'webp'] as const)('as %s carries it', async (format) => {
    const target = { width: 32, height: 16, ppi: 100, bleed: 0 };
    const recipe = Recipe.parse({
      ...{ version: RECIPE_VERSION, core: CORE_VERSION, alpha: 'none', colour: '#ffffff' },
      original: { digest: 'd'.repeat(64), page: 1, width: 32, height: 16, drawn: null },
      ...{ target, steps: [], output: usualOutput(format, 8) },
    });
    const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
    const part = join(folder, format);
    const writer = writerOf({ recipe, profile: null, exif: kept, part, packed });
    await writer.begin();
    const path = await writer.end(() => {});
    const tags = ExifReader.load(await readFile(path), { expanded: true });
    const exif = tags.exif as Record<string, { value: unknown }>;
    expect([exif['Copyright']!.value].flat()).toEqual([kept.IFD0['Copyright']]);
    expect([exif['Make']!.value].flat()).toEqual([kept.IFD0['Make']]);
    if (format !== 'tiff') {
      expect([exif['DateTimeOriginal']!.value].flat()).toEqual([kept.IFD2['DateTimeOriginal']]);
    }
    expect((await sharp(path).metadata()).width).toBe(32);
    await writer.clear();
  });

  it('as a block of its own has its directories in order', () => {
    const block = exifBlock(kept);
    expect(block.toString('latin1', 0, 2)).toBe('II');
    const count = block.readUInt16LE(8);
    const tags = Array.from({ length: count }, (_, i) => block.readUInt16LE(10 + 12 * i));
    expect(tags).toEqual([...tags].sort((a, b) => a - b));
    expect(exifBlock({ IFD0: { Make: 'M' }, IFD2: {} }).length).toBe(8 + 2 + 12 + 4 + 2);
  });
});
