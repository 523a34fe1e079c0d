import { describe, expect, it } from 'vitest';
import type { Network } from '../learned/network';
import { emptyRaster } from '../raster/raster';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { propose } from '../recipe/propose';
import { selfTest, testFactor, type TestedWay, type TestRow } from './self-test';
import { beforeEnlarging } from '../recipe/views';
import { resolveRecipe } from '../recipe/resolve';
import { originalOf } from '../recipe/original';
import { RGB } from '../raster/form';

const size = { width: 240, height: 180 };
const findings = testFindings(size);
const { work } = propose(findings, { paper: testPaper(), distance: 2 });
const resolved = resolveRecipe(originalOf('a'.repeat(64), findings), work, work.trials[0]!);
if (!resolved.ok) throw new Error(resolved.reason);
const recipe = beforeEnlarging(resolved.recipe);

const settings = { light: 'gamma', limit: 0, step: 10 } as const;
const way = (method: TestedWay['method'], plain = method as never): TestedWay => ({
  method,
  carried: { model: null, finest: false, plain },
  settings,
});
const ways = [way('nearest'), way('bicubic'), way('lanczos3')];

async function tested(picture = testPicture(size), of = ways, factor = 3, network?: Network) {
  const rows: TestRow[] = [];
  const spots: number[][] = [];
  const found = await selfTest(
    memorySource(picture),
    recipe,
    of,
    factor,
    network ? { network: async () => network } : {},
    (row, { width, height }) => {
      rows.push(row);
      spots.push([width, height]);
    },
  );
  return { rows, spots, found };
}

describe('the test on the very picture', () => {
  it('tells every way with its figures, in their order, with a spot of one size', async () => {
    const { rows, spots, found } = await tested();
    expect(rows.map(({ method }) => method)).toEqual(ways.map(({ method }) => method));
    for (const row of rows) {
      expect(row.psnr).toBeGreaterThan(10);
      expect(row.ssim).toBeGreaterThan(0);
      expect(row.ssim).toBeLessThan(1);
      expect(row.edgePixels).toBeGreaterThan(found.edgePixels);
    }
    expect(new Set(spots.map(String)).size).toBe(1);
    expect(spots[0]).toEqual([found.spot.width, found.spot.height]);
  });

  it('finds the better of two ways', async () => {
    const [nearest, bicubic] = (await tested()).rows;
    expect(bicubic!.psnr).toBeGreaterThan(nearest!.psnr);
  });

  it('finds a flat picture again by every way', async () => {
    const flat = emptyRaster(size.width, size.height, RGB);
    flat.planes.forEach((plane) => plane.fill(0.4));
    for (const row of (await tested(flat)).rows) {
      expect(row.psnr).toBeGreaterThan(50);
      expect(row.edgePixels).toBeNaN();
    }
  });

  it('asks the network of a learned way', async () => {
    let asked = 0;
    const network: Network = {
      run: (_, width, height, margin) => {
        asked++;
        return new Float32Array(48 * (width - 2 * margin) * (height - 2 * margin));
      },
    };
    const learned = (finest: boolean): TestedWay => ({
      ...way('learned-photo'),
      carried: { model: 'f'.repeat(64), finest, plain: 'lanczos3' },
    });
    const both = [learned(false), way('bicubic')];
    const { rows } = await tested(testPicture(size), both, 4, network);
    expect(asked).toBe(1);
    await tested(testPicture(size), [learned(true)], 4, network);
    expect(asked).toBe(1 + 8);
    // A network that adds nothing is bicubic, brought into agreement with what it came from.
    expect(rows[0]!.psnr).toBeGreaterThan(rows[1]!.psnr - 0.5);
  });

  it('takes the most detailed parts of a large picture', async () => {
    const large = emptyRaster(1100, 700, RGB);
    const detailed = testPicture({ width: 300, height: 300 });
    large.planes.forEach((plane, c) => {
      for (let y = 0; y < 300; y++)
        plane.set(detailed.planes[c]!.subarray(y * 300, (y + 1) * 300), (y + 100) * 1100 + 600);
    });
    const { rows, found } = await tested(large, [way('bicubic')]);
    expect(found.spot.planes[0]!.some((value) => value > 0)).toBe(true);
    expect(rows[0]!.psnr).toBeLessThan(75);
  });

  it('refuses a picture that is too small, and ends where it is told to', async () => {
    const tiny = testPicture({ width: 60, height: 40 });
    await expect(tested(tiny)).rejects.toThrow(/too small/);
    const ended = selfTest(memorySource(testPicture(size)), recipe, ways, 3, {}, () => {
      throw new Error('enough');
    });
    await expect(ended).rejects.toThrow('enough');
  });

  it('reduces by the factor of the print, within reason', () => {
    expect([1, 2.5, 12].map(testFactor)).toEqual([1.5, 2.5, 4]);
  });
});
