import { nothingBeside, testContext } from '../../testing';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { measureBlocking } from '../../inspect/blocking';
import { psnr } from '../../inspect/compare';
import { readJpegHeader } from '../../inspect/jpeg';
import { luminance } from '../../raster/colour';
import type { Raster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { fromSamples, toSamples } from '../../raster/samples';
import { compression, type CompressionNumbers } from './compression';
import { forward8, inverse8 } from '../transform/dct';
import { emptyRaster } from '../../raster/raster';
import { RGB } from '../../raster/form';

const size = { width: 120, height: 88 };
let truth: Raster;
let decoded: Raster;
let numbers: CompressionNumbers;

/** Soft ramps with a hard edge across: what blocks show on, and what must stay. */
function scene(): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const edge = x * 0.7 + y > 90 ? 0.35 : 0;
      for (let c = 0; c < 3; c++) {
        raster.planes[c]![y * size.width + x] =
          0.2 +
          edge +
          0.25 * Math.sin(x / 23 + c) * Math.cos(y / 31 - c) * 0.5 +
          0.1 * (y / size.height);
      }
    }
  return raster;
}

beforeAll(async () => {
  const samples = toSamples(scene(), 8);
  truth = fromSamples(samples, size.width, size.height, 3, 8);
  const bytes = await sharp(samples, { raw: { ...size, channels: 3 } })
    .jpeg({ quality: 15 })
    .toBuffer();
  const raw = await sharp(bytes).raw().toBuffer();
  decoded = fromSamples(raw, size.width, size.height, 3, 8);
  numbers = compression.resolve(
    { engine: 'classical', luma: 'auto', colour: 'auto' },
    testContext(size, { jpeg: readJpegHeader(bytes)!.facts }),
  )!;
});

const run = async (raster: Raster) =>
  compression.apply(
    { region: whole(size), raster },
    numbers,
    whole(size),
    { from: size, to: size },
    nothingBeside,
  );

describe('cleaning compression', () => {
  it('comes nearer to the truth, in luminance and in every channel', async () => {
    const result = await run(decoded);
    const gain =
      psnr(luminance(result), luminance(truth)) - psnr(luminance(decoded), luminance(truth));
    expect(gain).toBeGreaterThan(0.5);
    for (let c = 0; c < 3; c++) {
      expect(psnr(result.planes[c]!, truth.planes[c]!)).toBeGreaterThan(
        psnr(decoded.planes[c]!, truth.planes[c]!),
      );
    }
  });

  it('takes the block grid away and leaves the edge as steep as it was', async () => {
    const result = await run(decoded);
    const blocks = (raster: Raster) =>
      measureBlocking([
        { x: 0, y: 0, ...size, luma: luminance(raster).map((value) => value * 255) },
      ]).ratio;
    expect(blocks(decoded)).toBeGreaterThan(1.15);
    expect(Math.abs(blocks(result) - blocks(truth))).toBeLessThan(
      0.35 * Math.abs(blocks(decoded) - blocks(truth)),
    );
    const steepest = (raster: Raster) => {
      const luma = luminance(raster);
      let most = 0;
      for (let i = 1; i < size.width; i++)
        most = Math.max(most, luma[44 * size.width + i]! - luma[44 * size.width + i - 1]!);
      return most;
    };
    expect(steepest(result)).toBeGreaterThan(0.85 * steepest(decoded));
  });

  it('leaves a flat picture flat', async () => {
    const flat = emptyRaster(size.width, size.height, RGB);
    flat.planes.forEach((plane, c) => plane.fill([0.4, 0.5, 0.3][c]!));
    const result = await run(flat);
    for (const [c, plane] of result.planes.entries())
      for (const value of plane)
        expect(Math.abs(value - flat.planes[c]![0]!)).toBeLessThan(2.5 / 255);
  });
});

describe('the 8-point transform', () => {
  const input = Float64Array.of(52, 55, 61, 66, -70, 61, 64, 73);

  it('is the orthonormal DCT-II by its formula', () => {
    const out = new Float64Array(8);
    forward8(input, 0, 1, out, 0, 1);
    for (let k = 0; k < 8; k++) {
      const scale = k === 0 ? Math.sqrt(1 / 8) : Math.sqrt(2 / 8);
      const expected =
        scale *
        input.reduce((sum, v, n) => sum + v * Math.cos((Math.PI * (2 * n + 1) * k) / 16), 0);
      expect(out[k]).toBeCloseTo(expected, 10);
    }
  });

  it('comes back, at any stepping', () => {
    const spread = new Float64Array(24);
    const back = new Float64Array(8);
    forward8(input, 0, 1, spread, 1, 3);
    inverse8(spread, 1, 3, back, 0, 1);
    back.forEach((value, i) => expect(value).toBeCloseTo(input[i]!, 10));
  });
});
