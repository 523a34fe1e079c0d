import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cut } from '@/core/raster/raster';
import { cells, whole } from '@/core/raster/region';
import { roundToFixed } from '@/core/raster/fixed';
import { testPicture } from '@/core/testing';
import { openScratch, scratchBytes, writeBlock, type ScratchFile } from './scratch-file';
import { RGB } from '@/core/raster/form';

const size = { width: 582, height: 542 };
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-scratch-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe.each([false, true])('a scratch file of numbers of 16 bits: %s', (fixed) => {
  const picture = fixed ? roundToFixed(testPicture(size)) : testPicture(size);
  let file: ScratchFile;

  beforeAll(async () => {
    const path = join(folder, `scratch ${fixed}`);
    file = { path, hash: 'h', size, form: RGB, fixed, block: { width: 512, height: 512 } };
    await writeFile(path, '');
    const blocks = cells(whole(size), file.block, size);
    // In no order, as threads write them.
    for (const index of [3, 0, 2, 1]) {
      writeBlock(file, index, cut({ region: whole(size), raster: picture }, blocks[index]!));
    }
  });
  it.each([
    [{ x: 0, y: 0, width: 10, height: 10 }],
    [{ x: 507, y: 505, width: 20, height: 30 }],
    [{ x: 0, y: 100, width: 582, height: 3 }],
    [{ x: 581, y: 541, width: 1, height: 1 }],
  ])('gives back just what was written, over %j', async (region) => {
    const source = openScratch(file);
    expect(source.size).toEqual(size);
    const expected = cut({ region: whole(size), raster: picture }, region);
    expect(await source.read(region)).toEqual(expected);
    expect(await source.read(region)).toEqual(expected);
    source.close();
  });

  it('takes its bytes for whole blocks', () => {
    expect(scratchBytes(file)).toBe(4 * 512 * 512 * 3 * (fixed ? 2 : 4));
  });

  it('says so where it ends too soon, rather than making pixels up', async () => {
    const path = join(folder, 'short');
    await writeFile(path, Buffer.alloc(100));
    const source = openScratch({ ...file, path });
    await expect(source.read(whole(size))).rejects.toThrow(/ends too soon/);
    source.close();
  });
});
