import { open } from 'node:fs/promises';
import { MAGNIFICATION } from '@/core/learned/enlarger';
import { emptyRaster, paste, type Raster } from '@/core/raster/raster';
import { cells, evenCell, whole, within, type Region, type Size } from '@/core/raster/region';
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
  /** sides of its blocks */
  block: Size;
}

/** A begun picture and where it lies. */
export interface BegunFile {
  path: string;
  layout: BegunLayout;
}

/** Blocks begin at whole pixels of the original, and at whole pairs of them, which cleaners go by. */
const STEP = 2 * MAGNIFICATION;

/** Blocks of a begun picture, in the order in which they lie in its file. */
export const begunBlocks = ({ size, block }: BegunLayout): Region[] =>
  cells(whole(size), block, size);

const blockBytes = ({ channels, block }: BegunLayout): number =>
  block.width * block.height * channels * 4;

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
      layouts.push({ steps, size, channels, block: evenCell(size, blockOf(step.kind), STEP) });
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

/** A source that reads a begun picture: of each block just the rows that are asked for. */
export function openBegun(path: string, layout: BegunLayout): Source {
  const { size, channels } = layout;
  const blocks = begunBlocks(layout);
  return {
    size,
    read: async (region) => {
      const raster = emptyRaster(region.width, region.height, channels);
      const parts = blocks.map((block) => within(block, region));
      const bytesOf = (i: number) => parts[i]!.height * blocks[i]!.width * 4;
      const rows = Buffer.allocUnsafeSlow(Math.max(...parts.map((_, i) => bytesOf(i))));
      const file = await open(path, 'r');
      try {
        for (const [i, part] of parts.entries()) {
          if (part.width === 0 || part.height === 0) continue;
          const block = blocks[i]!;
          for (const [c, plane] of raster.planes.entries()) {
            const before = (c * block.height + part.y - block.y) * block.width * 4;
            await file.read(rows, 0, bytesOf(i), i * blockBytes(layout) + before);
            const floats = new Float32Array(rows.buffer, 0, bytesOf(i) / 4);
            const window = { width: block.width, height: part.height, planes: [floats] };
            paste(
              { region: { ...part, x: block.x, width: block.width }, raster: window },
              { region, raster: { ...raster, planes: [plane] } },
            );
          }
        }
      } finally {
        await file.close();
      }
      return raster;
    },
  };
}
