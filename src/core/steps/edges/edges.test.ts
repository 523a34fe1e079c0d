import { describe, expect, it } from 'vitest';
import { LIGHTNESS } from '../../raster/form';
import { emptyRaster, type Raster } from '../../raster/raster';
import { whole } from '../../raster/region';
import { nothingBeside } from '../../testing';
import { edges, type EdgesNumbers } from './edges';

const size = { width: 160, height: 40 };

/** From the left: a hard edge at 40, a soft slope from 80 to 120, and a faint edge at 140. */
const picture: Raster = emptyRaster(size.width, size.height, LIGHTNESS);
for (let y = 0; y < size.height; y++)
  for (let x = 0; x < size.width; x++) {
    const hard = x < 40 ? 0.2 : 0.5;
    const slope = 0.3 * Math.min(1, Math.max(0, (x - 80) / 40));
    const faint = x < 140 ? 0 : 0.02;
    for (const plane of picture.planes) plane[y * size.width + x] = hard + slope + faint;
  }

const run = async (change: Partial<EdgesNumbers> = {}): Promise<Float32Array> => {
  const numbers = {
    ...{ radius: 1.5, amount: 1, hard: 24 / 255, band: 3, ramps: 0.8, layer: false },
    ...change,
  };
  const result = await edges.apply(
    { region: whole(size), raster: picture },
    numbers,
    whole(size),
    { from: size, to: size },
    nothingBeside,
  );
  return result.planes[0]!.slice(20 * size.width, 21 * size.width);
};
const before = picture.planes[0]!.slice(20 * size.width, 21 * size.width);

describe('edges only', () => {
  it('finds hard edges, and neither slopes nor what is faint', async () => {
    const mask = await run({ layer: true });
    expect(mask[40]).toBeGreaterThan(0.98);
    expect(mask[100]).toBeLessThan(0.05);
    expect(mask[140]).toBe(0);
    expect(mask[10]).toBe(0);
  });

  it('adds what an unsharp mask would there, and nothing elsewhere', async () => {
    const after = await run();
    expect(after[39]! - before[39]!).toBeLessThan(-0.02);
    expect(after[40]! - before[40]!).toBeGreaterThan(0.02);
    for (const x of [5, 20, 60, 100, 140, 155]) expect(after[x]).toBeCloseTo(before[x]!, 6);
  });

  it('reaches as far as its band', async () => {
    const width = (mask: Float32Array) => mask.slice(0, 79).filter((value) => value > 0.5).length;
    const narrow = width(await run({ layer: true, band: 1 }));
    const wide = width(await run({ layer: true, band: 8 }));
    expect(narrow).toBeLessThan(10);
    expect(wide).toBeGreaterThan(narrow + 10);
  });

  it('takes slopes too where it is told to', async () => {
    const all = await run({ layer: true, ramps: 0, hard: 4 / 255 });
    expect(all[100]).toBeGreaterThan(0.5);
    expect(all[140]).toBeGreaterThan(0.5);
  });
});
