import { describe, expect, it } from 'vitest';
import { usualOutput } from '../output/output';
import { render } from '../render/render';
import { memorySource, testPicture } from '../testing';
import { fileOnPaper } from './file-on-paper';
import { CORE_VERSION, type Recipe } from './recipe';

const paper = {
  ...{ version: 5, core: CORE_VERSION, alpha: 'none', colour: '#ffffff', steps: [] },
  original: { digest: 'a'.repeat(64), page: 1, width: 30, height: 20, drawn: null },
  target: { width: 120, height: 80, ppi: 100 },
  output: { ...usualOutput('tiff', 8), alpha: 'keep' },
} as unknown as Recipe;
const named = { digest: 'b'.repeat(64), page: 1, alpha: false };
const tools = { network: () => Promise.reject(new Error('none')) };

/** What a file of a size shows on the paper. */
function shown(size: { width: number; height: number }, shift?: { x: number; y: number }) {
  const picture = testPicture(size, 2);
  const recipe = fileOnPaper(paper, { ...named, ...size }, shift);
  return { picture, recipe, rendered: render(memorySource(picture), recipe, tools as never) };
}

const everywhere = { x: 0, y: 0, width: 120, height: 80 };

describe('a file on the paper', () => {
  it('of the print’s own size is shown sample by sample', async () => {
    const { picture, rendered } = shown({ width: 120, height: 80 });
    expect(rendered.size).toEqual({ width: 120, height: 80 });
    const raster = await rendered.read(everywhere);
    raster.planes.forEach((plane, c) => {
      const off = plane.map((value, i) => Math.abs(value - picture.planes[c]![i]!));
      expect(Math.max(...off)).toBe(0);
    });
  });

  it('of another size has its pixels repeated as they would print', async () => {
    const { picture, rendered } = shown({ width: 60, height: 40 });
    const raster = await rendered.read(everywhere);
    for (const [x, y] of [
      [0, 0],
      [61, 33],
      [119, 79],
    ] as const) {
      expect(raster.planes[1]![y * 120 + x]).toBe(picture.planes[1]![(y >> 1) * 60 + (x >> 1)]);
    }
  });

  it('is moved by whole pixels of the print, its edge going on where it ends', async () => {
    const { picture, rendered } = shown({ width: 120, height: 80 }, { x: 5, y: -3 });
    const raster = await rendered.read(everywhere);
    expect(raster.planes[0]![40 * 120 + 50]).toBe(picture.planes[0]![43 * 120 + 45]);
    expect(raster.planes[0]![40 * 120 + 2]).toBe(picture.planes[0]![43 * 120]);
    expect(raster.planes[0]![79 * 120 + 50]).toBe(picture.planes[0]![79 * 120 + 45]);
  });

  it('of another shape lies in the middle, on the paper’s colour', async () => {
    const { recipe, rendered } = shown({ width: 40, height: 40 });
    expect(rendered.size).toEqual({ width: 120, height: 80 });
    const raster = await rendered.read(everywhere);
    expect(raster.planes[0]![40 * 120 + 10]).toBe(1);
    expect(raster.planes[0]![40 * 120 + 25]).not.toBe(1);
    expect(recipe.target).toEqual(paper.target);
  });
});
