import { open } from 'node:fs/promises';
import { emptyRaster, paste, rasterBytes, type Raster, type Window } from '@/core/raster/raster';
import { cells, whole, type Region, type Size } from '@/core/raster/region';
import { Kept } from '@/core/treatment/kept';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { BLOCK } from '@/core/treatment/render';
import { phasesOf } from '@/core/steps';
import type { Source } from '@/core/treatment/source';

/**
 * The picture after all that is done at the original's size, as floats in blocks: computed once for
 * all strips and threads, so that a run's time grows with the picture and not with their number.
 */
export interface CleanedLayout {
  size: Size;
  channels: number;
}

/** Blocks of a cleaned picture, in the order in which they lie in its file. */
export const cleanedBlocks = ({ size }: CleanedLayout): Region[] => cells(whole(size), BLOCK, size);

const blockBytes = ({ channels }: CleanedLayout): number => BLOCK * BLOCK * channels * 4;

/** Bytes of the whole file. */
export const cleanedBytes = (layout: CleanedLayout): number =>
  cleanedBlocks(layout).length * blockBytes(layout);

/** The part of a recipe that comes before its enlargement, or null where there is nothing to it. */
export function cleaningOf(recipe: SettledRecipe): SettledRecipe | null {
  if (recipe.original.drawn) return null;
  const phases = phasesOf(recipe.steps);
  const steps = recipe.steps.filter((_, i) => phases[i] === 'original');
  return steps.some(({ kind }) => kind !== 'regrid') ? { ...recipe, steps } : null;
}

/** Writes one block at its place. */
export async function writeCleaned(
  path: string,
  layout: CleanedLayout,
  index: number,
  raster: Raster,
): Promise<void> {
  const file = await open(path, 'r+');
  try {
    let at = index * blockBytes(layout);
    for (const plane of raster.planes) {
      const bytes = Buffer.from(plane.buffer, plane.byteOffset, plane.byteLength);
      await file.write(bytes, 0, bytes.length, at);
      at += bytes.length;
    }
  } finally {
    await file.close();
  }
}

/** What of a cleaned picture a thread holds at a time. */
const HELD = 64 << 20;

/** A source that reads a cleaned picture block by block. */
export function openCleaned(path: string, layout: CleanedLayout): Source {
  const { size, channels } = layout;
  const index = new Map(cleanedBlocks(layout).map(({ x, y }, i) => [`${x},${y}`, i]));
  const held = new Kept(HELD);
  const block = async (region: Region): Promise<Window> => {
    const known = held.find('block', region);
    if (known) return known;
    const raster = emptyRaster(region.width, region.height, channels);
    const bytes = Buffer.alloc(rasterBytes(raster));
    const file = await open(path, 'r');
    try {
      const at = index.get(`${region.x},${region.y}`)! * blockBytes(layout);
      await file.read(bytes, 0, bytes.length, at);
    } finally {
      await file.close();
    }
    const count = region.width * region.height;
    const floats = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
    raster.planes.forEach((plane, c) => plane.set(floats.subarray(c * count, (c + 1) * count)));
    const window = { region, raster };
    held.keep('block', window);
    return window;
  };
  return {
    size,
    read: async (region) => {
      const raster = emptyRaster(region.width, region.height, channels);
      for (const cell of cells(region, BLOCK, size)) paste(await block(cell), { region, raster });
      return raster;
    },
  };
}
