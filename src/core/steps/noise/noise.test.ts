import { describe, expect, it } from 'vitest';
import { psnr } from '../../inspect/compare';
import { measureNoise } from '../../inspect/noise';
import { toYCbCr } from '../../raster/colour';
import { NO_MODELS, type Models } from '../../learned/models';
import { emptyRaster, type Raster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { random, testContext } from '../../testing';
import { averageOverShifts } from '../transform/shifted';
import { denoise, type Sigmas } from './denoise';
import { noise } from './noise';
import { RGB, RGBA } from '../../raster/form';

const size = { width: 96, height: 80 };

/** Ramps, a bright disc and a stripe: what noise must leave behind as it was. */
function scene(): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const disc = Math.hypot(x - 60, y - 40) < 18 ? 0.3 : 0;
      const stripe = Math.abs(x - 20) < 2 ? 0.25 : 0;
      for (let c = 0; c < 3; c++)
        raster.planes[c]![y * size.width + x] =
          0.2 + 0.2 * (y / size.height) + disc + stripe * (c / 2);
    }
  return raster;
}

function noisy(raster: Raster, sigma: number, shared = false): Raster {
  const next = random(9);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const result = { ...raster, planes: raster.planes.map((plane) => plane.slice()) };
  for (let i = 0; i < raster.planes[0]!.length; i++) {
    const common = gauss();
    for (const plane of result.planes) plane[i]! += ((shared ? common : gauss()) * sigma) / 255;
  }
  return result;
}

const all = ({ planes }: Raster) => Float32Array.from(planes.flatMap((plane) => [...plane]));
const run = (raster: Raster, sigmas: Sigmas) =>
  denoise({ region: whole(size), raster }, whole(size), size, sigmas);

describe('taking noise out', () => {
  it.each([
    [5, 4],
    [15, 8],
    [25, 9],
  ])('of sigma %d gains at least %d dB', (sigma, gain) => {
    const truth = scene();
    const given = noisy(truth, sigma);
    const found = run(given, { grey: sigma, colour: sigma });
    expect(psnr(all(found), all(truth)) - psnr(all(given), all(truth))).toBeGreaterThan(gain);
  });

  it('keeps an edge as steep as it was, all but a tenth', () => {
    const truth = scene();
    const found = run(noisy(truth, 10), { grey: 10, colour: 10 });
    const step = (raster: Raster) => {
      const row = 40 * size.width;
      return raster.planes[1]![row + 45]! - raster.planes[1]![row + 39]!;
    };
    expect(step(found)).toBeGreaterThan(0.9 * step(truth));
  });

  it('leaves luminance alone where only colour is to be cleaned, and the other way round', () => {
    const given = noisy(scene(), 12);
    const colourOnly = run(given, { grey: 0, colour: 12 });
    const sum = (raster: Raster, i: number) =>
      raster.planes[0]![i]! + raster.planes[1]![i]! + raster.planes[2]![i]!;
    for (let i = 0; i < size.width * size.height; i += 7)
      expect(sum(colourOnly, i)).toBeCloseTo(sum(given, i), 4);
    const greyOnly = run(given, { grey: 12, colour: 0 });
    const difference = (raster: Raster, i: number) => raster.planes[0]![i]! - raster.planes[2]![i]!;
    for (let i = 0; i < size.width * size.height; i += 7)
      expect(difference(greyOnly, i)).toBeCloseTo(difference(given, i), 4);
  });

  it('is the picture itself where nothing is to be taken', () => {
    const given = noisy(scene(), 8);
    expect(run(given, { grey: 0, colour: 0 })).toEqual(given);
  });

  it('keeps alpha as it is', () => {
    const alpha = new Float32Array(96 * 80).fill(0.4);
    const given = { ...scene(), form: RGBA, planes: [...scene().planes, alpha] };
    expect(run(given, { grey: 9, colour: 9 }).planes[3]).toEqual(given.planes[3]);
  });
});

describe('the noise step', () => {
  const settings = { engine: 'classical', luma: 'auto', colour: 'auto' } as const;

  it('takes its strength from what was measured', () => {
    const given = noisy(scene(), 15);
    const { y, cb, cr } = toYCbCr(given);
    const patch = { ...{ x: 0, y: 0, ...size, raster: given }, luma: y, cb, cr };
    const measured = measureNoise([patch]);
    const numbers = noise.resolve(settings, testContext(size, { noise: measured }))!;
    // White noise of 15 levels in every channel is what the basis is told of.
    expect(numbers.grey).toBeGreaterThan(11);
    expect(numbers.grey).toBeLessThan(19);
    expect(numbers.colour).toBeGreaterThan(11);
    expect(numbers.colour).toBeLessThan(19);
  });

  it('does nothing on its own where next to none was measured', () => {
    const clean = testContext(size, { noise: { luma: 0.4, colour: 0.3 } });
    expect(noise.resolve(settings, clean)).toBeNull();
    expect(noise.resolve({ ...settings, luma: 4 }, clean)).toMatchObject({ colour: 0 });
  });

  it('names its model where the learned engine is wanted and there is one', () => {
    const models = { ...NO_MODELS, noise: 'b'.repeat(64) };
    const measured = { noise: { luma: 5, colour: 4 } };
    const learned = { ...settings, engine: 'learned' } as const;
    const resolve = (chosen: typeof learned | typeof settings, there: { models: Models }) =>
      noise.resolve(chosen, testContext(size, { ...measured, ...there }))!.model;
    expect(resolve(learned, { models })).toBe(models.noise);
    expect(resolve(settings, { models })).toBeNull();
    expect(resolve(learned, { models: { ...models, noise: null } })).toBeNull();
  });
});

describe('the average over shifted blocks', () => {
  const plane = (seed: number) => {
    const next = random(seed);
    const values = Float32Array.from({ length: size.width * size.height }, () => 60 * next() - 30);
    return { values, covered: whole(size), size };
  };

  it('gives a plane back where nothing is dropped', () => {
    const input = plane(4);
    const result = averageOverShifts(input, whole(size), new Array<number>(64).fill(0));
    result.forEach((value, i) => expect(value).toBeCloseTo(input.values[i]!, 3));
  });

  it('keeps means where everything but means is dropped', () => {
    const input = plane(5);
    const thresholds = new Array<number>(64).fill(1e6);
    thresholds[0] = 0;
    const result = averageOverShifts(input, whole(size), thresholds);
    const mean = (values: Float32Array) => values.reduce((sum, v) => sum + v, 0) / values.length;
    expect(mean(result)).toBeCloseTo(mean(input.values), 0);
    const spread = (values: Float32Array) => Math.sqrt(mean(values.map((v) => v * v)));
    expect(spread(result)).toBeLessThan(0.15 * spread(input.values));
  });

  it('weighs blocks of the own grid more', () => {
    const input = plane(6);
    const thresholds = new Array<number>(64).fill(18);
    const plain = averageOverShifts(input, whole(size), thresholds);
    const own = averageOverShifts(input, whole(size), thresholds, { x: -3, y: -1, weight: 50 });
    const same = averageOverShifts(input, whole(size), thresholds, { x: -3, y: -1, weight: 1 });
    expect(same).toEqual(plain);
    expect(own).not.toEqual(plain);
  });
});
