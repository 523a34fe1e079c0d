import { beside, clip, within, type Region } from '@/core/raster/region';
import type { Pixels } from '@/preview/client';
import type { Layer } from './layers';
import type { Wanted } from './painter';

/** What a pane holds: pixels of a region of a layer's grid. */
export interface Painted {
  /** names the layer, whichever region of it */
  of: string;
  bitmap: HTMLCanvasElement;
  region: Region;
  layer: Layer;
}

/** What came for a pane: what it holds already of what is wanted, and the pixels that it did not. */
export interface Arrived {
  draft: boolean;
  milliseconds: number;
  held: Painted | null;
  pieces: { region: Region; pixels: Pixels }[];
}

/**
 * Asks for what of a region is not held yet: after a pan that is a strip or two.
 * @param final what is held with its final pixels
 */
export async function arriving(
  wanted: Wanted,
  final: Painted | null,
  ask: (region: Region) => Promise<Pixels>,
): Promise<Arrived> {
  const same = final?.of === wanted.of ? final : null;
  const common = same && within(same.region, wanted.region);
  const held = common && common.width > 0 && common.height > 0 ? same : null;
  const regions = held ? beside(wanted.region, common!) : [wanted.region];
  const pieces = await Promise.all(
    regions.map(async (region) => ({ region, pixels: await ask(region) })),
  );
  return {
    draft: pieces.some(({ pixels }) => pixels.draft),
    milliseconds: Math.max(0, ...pieces.map(({ pixels }) => pixels.milliseconds)),
    ...{ held, pieces },
  };
}

/**
 * What comes into view where a pan goes on as it went: by as much again, where it stays on the same layer.
 * @returns the strips beyond what is shown; none where nothing was panned
 */
export function ahead(before: Wanted | null, { of, region, layer }: Wanted): Region[] {
  if (!before || before.of !== of) return [];
  const [dx, dy] = [region.x - before.region.x, region.y - before.region.y];
  const near = Math.abs(dx) < region.width && Math.abs(dy) < region.height;
  if (!near || (dx === 0 && dy === 0)) return [];
  const next = clip({ ...region, x: region.x + dx, y: region.y + dy }, layer.size);
  return next.width > 0 && next.height > 0 ? beside(next, within(region, next)) : [];
}

/** One bitmap of what was held and what arrived. */
export function joined({ of, layer, region }: Wanted, { held, pieces }: Arrived): Painted {
  const bitmap = document.createElement('canvas');
  bitmap.width = region.width;
  bitmap.height = region.height;
  const context = bitmap.getContext('2d')!;
  if (held) {
    context.drawImage(held.bitmap, held.region.x - region.x, held.region.y - region.y);
  }
  for (const { region: part, pixels } of pieces) {
    const image = new ImageData(pixels.rgba, pixels.width, pixels.height);
    context.putImageData(image, part.x - region.x, part.y - region.y);
  }
  return { of, bitmap, region, layer };
}
