import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { psnr } from '../src/core/inspect/compare';
import { measureBlocking } from '../src/core/inspect/blocking';
import { samplePicture } from '../src/core/inspect/patches';
import { luminance } from '../src/core/raster/colour';
import { cut } from '../src/core/raster/raster';
import { memorySource } from '../src/core/testing';
import { whole } from '../src/core/raster/region';
import { fromSamples } from '../src/core/raster/samples';
import type { Raster } from '../src/core/raster/raster';
import { propose } from '../src/core/recipe/propose';
import { NO_MODELS } from '../src/core/learned/models';
import { render } from '../src/core/render/render';
import { originalOf } from '../src/core/recipe/original';
import { beforeEnlarging } from '../src/core/recipe/views';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { decode } from '../src/server/codecs/decode';
import { decodeTask, type Decoded } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { degradedPath, pictures, truthPath } from './pictures';

const dome = pictures[0]!;
const size = { width: 720, height: 480 };
let folder: string;
let truth: Raster;
let decoded: Decoded;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-dome-'));
  const pixels = await sharp(await truthPath(dome))
    .resize(720, 480, { kernel: 'lanczos3' })
    .raw()
    .toBuffer();
  truth = fromSamples(pixels, size.width, size.height, 3, 8);
  decoded = await decode(decodeTask(degradedPath(dome), join(folder, 'dome.raw')));
}, 600_000);

afterAll(() => rm(folder, { recursive: true, force: true }));

describe('the dome against its truth', () => {
  it('is drawn as it was when it was committed', async () => {
    const pixels = async (file: string | Buffer) =>
      [...(await sharp(file).raw().toBuffer())].map((level) => level / 255);
    const again = await dome.degrade(sharp(await truthPath(dome))).toBuffer();
    expect(psnr(await pixels(again), await pixels(degradedPath(dome)))).toBeGreaterThan(50);
  });

  it('shows where its blocks begin, however it is cropped after compression', async () => {
    const small = await sharp(await truthPath(dome))
      .resize(720, 480)
      .jpeg({ quality: 50 })
      .toBuffer();
    const { data } = await sharp(small).raw().toBuffer({ resolveWithObject: true });
    const raster = fromSamples(data, 720, 480, 3, 8);
    for (let shift = 0; shift < 64; shift++) {
      const [left, top] = [shift % 8, shift >> 3];
      const part = { x: left, y: top, width: 712, height: 472 };
      const cropped = cut({ region: whole(raster), raster }, part);
      const { patches } = await samplePicture(memorySource(cropped));
      const { offsetX, offsetY } = measureBlocking(patches);
      expect([offsetX, offsetY], `cropped by ${left}, ${top}`).toEqual([
        (8 - left) % 8,
        (8 - top) % 8,
      ]);
    }
  });

  it('gains at least 0.3 dB of luminance by cleaning, and its colours gain too', async () => {
    const { work } = propose(decoded.findings, { paper: dome.paper, distance: dome.distance });
    const resolved = resolveRecipe(
      originalOf('d', decoded.findings),
      work,
      work.trials[0]!,
      NO_MODELS,
    );
    if (!resolved.ok) throw new Error(resolved.reason);
    const source = await openRaw(join(folder, 'dome.raw'));
    const before = await source.read(whole(size));
    const after = await render(source, beforeEnlarging(resolved.recipe)).read(whole(size));
    await source.close();
    const luma = luminance(truth);
    const gain = psnr(luminance(after), luma) - psnr(luminance(before), luma);
    console.log(`luminance gains ${gain.toFixed(2)} dB`);
    expect(gain).toBeGreaterThan(0.3);
    for (let channel = 0; channel < 3; channel++) {
      const colour = (raster: Raster) => psnr(raster.planes[channel]!, truth.planes[channel]!);
      console.log(`channel ${channel} gains ${(colour(after) - colour(before)).toFixed(2)} dB`);
      expect(colour(after) - colour(before)).toBeGreaterThan(0.3);
    }
  });
});
