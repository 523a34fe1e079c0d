import { open } from 'node:fs/promises';
import { emptyRaster, paste, rasterBytes, type Raster, type Window } from '@/core/raster/raster';
import { cells, whole, type Region, type Size } from '@/core/raster/region';
import { Kept } from '@/core/treatment/kept';
import { canonicalJson, type SettledRecipe } from '@/core/treatment/recipe';
import { blockOf, type RenderTools } from '@/core/treatment/render';
import { insetSteps, phasesOf, stageOf, type SettledStep } from '@/core/steps';
import type { Source } from '@/core/treatment/source';

/**
 * The picture after some of its steps, as floats in blocks: computed once for all strips and threads,
 * so that a run's time grows with the picture and not with their number.
 */
export interface BegunLayout {
  /** the steps that it is the result of */
  steps: SettledStep[];
  size: Size;
  channels: number;
  /** side of its blocks */
  block: number;
}

/** A begun picture and where it lies. */
export interface BegunFile {
  path: string;
  layout: BegunLayout;
}

/** Blocks of a begun picture, in the order in which they lie in its file. */
export const begunBlocks = ({ size, block }: BegunLayout): Region[] =>
  cells(whole(size), block, size);

const blockBytes = ({ channels, block }: BegunLayout): number => block * block * channels * 4;

/** Bytes of the whole file. */
export const begunBytes = (layout: BegunLayout): number =>
  begunBlocks(layout).length * blockBytes(layout);

/**
 * The begun pictures that a run makes one after another before its strips: the cleaned original, that
 * as a network enlarged it, and the same of what is laid over the picture where it differs. None where
 * nothing is done at the original's size.
 */
export function begunPictures(recipe: SettledRecipe, channels: number): BegunLayout[] {
  if (recipe.original.drawn) return [];
  const phases = phasesOf(recipe.steps);
  const layouts: BegunLayout[] = [];
  let size: Size = { width: recipe.original.width, height: recipe.original.height };
  let anything = false;
  recipe.steps.forEach((step, i) => {
    if (step.kind === 'inset') {
      const inside = { ...recipe, steps: insetSteps(step.numbers) };
      layouts.push(...begunPictures(inside, channels));
    }
    if (phases[i] !== 'original') return;
    size = stageOf(step).size(step.numbers, size);
    anything ||= step.kind !== 'regrid' && step.kind !== 'magnify';
    const last = phases[i + 1] !== 'original' || recipe.steps[i + 1]!.kind === 'magnify';
    if (last && (anything || step.kind === 'magnify')) {
      const steps = recipe.steps.slice(0, i + 1);
      layouts.push({ steps, size, channels, block: blockOf(step.kind) });
    }
  });
  return [...new Map(layouts.map((layout) => [keyOf(layout.steps), layout])).values()];
}

const keyOf = (steps: readonly SettledStep[]): string => canonicalJson(steps);

/** Opens begun pictures, for a rendering to go on from. */
export function openAllBegun(files: readonly BegunFile[]): NonNullable<RenderTools['begun']> {
  const sources = new Map(
    files.map(({ path, layout }) => [keyOf(layout.steps), openBegun(path, layout)]),
  );
  return (steps) => (sources.size > 0 ? sources.get(keyOf(steps)) : undefined);
}

/** Writes one block at its place. */
export async function writeBegun(
  path: string,
  layout: BegunLayout,
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

/** What of a begun picture a thread holds at a time. */
const HELD = 64 << 20;

/** A source that reads a begun picture block by block. */
export function openBegun(path: string, layout: BegunLayout): Source {
  const { size, channels } = layout;
  const index = new Map(begunBlocks(layout).map(({ x, y }, i) => [`${x},${y}`, i]));
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
      for (const cell of cells(region, layout.block, size))
        paste(await block(cell), { region, raster });
      return raster;
    },
  };
}
