import { beside, clip, contains, within, type Region } from '@/core/raster/region';
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

/** One half of what a pane shows; each is computed by a worker of its own. */
export type Half = 'upper' | 'lower';

/** Lower ones are not worth a worker of their own. */
const LEAST_HALF = 32;

/** A region in the halves of what is shown, so that each worker finds what it kept of its own. */
export function inHalves(region: Region, shown: Region): { region: Region; half: Half }[] {
  const middle = shown.y + Math.ceil(shown.height / 2);
  const above = middle - region.y;
  const below = region.height - above;
  if (Math.min(above, below) < LEAST_HALF) {
    return [{ region, half: above >= below ? 'upper' : 'lower' }];
  }
  return [
    { region: { ...region, height: above }, half: 'upper' },
    { region: { ...region, y: middle, height: below }, half: 'lower' },
  ];
}

/** What is wanted where all of it is held: nothing needs to come. @param final what is held with its final pixels */
export const heldWhole = ({ of, region }: Wanted, final: Painted | null): Arrived | null =>
  final?.of === of && contains(final.region, region)
    ? { draft: false, milliseconds: 0, held: final, pieces: [] }
    : null;

/**
 * Asks for what of a region is not held yet: after a pan that is a strip or two.
 * @param final what is held with its final pixels
 */
export async function arriving(
  wanted: Wanted,
  final: Painted | null,
  ask: (region: Region, half: Half) => Promise<Pixels>,
): Promise<Arrived> {
  const same = final?.of === wanted.of ? final : null;
  const common = same && within(same.region, wanted.region);
  const held = common && common.width > 0 && common.height > 0 ? same : null;
  const regions = held ? beside(wanted.region, common!) : [wanted.region];
  const parts = regions.flatMap((region) => inHalves(region, wanted.region));
  const pieces = await Promise.all(
    parts.map(async ({ region, half }) => ({ region, pixels: await ask(region, half) })),
  );
  return {
    draft: pieces.some(({ pixels }) => pixels.draft),
    milliseconds: Math.max(0, ...pieces.map(({ pixels }) => pixels.milliseconds)),
    ...{ held, pieces },
  };
}

/** How far ahead of a pan is computed, in pixels of the layer, and in which steps. */
const FURTHER = 192;
const STEP = 128;

/**
 * What comes into view where a pan goes on as it went, on the same layer. Its far side stands still for several steps of a
 * pan, so that they find what was begun for the first of them.
 * @param begun what was looked ahead for last, on the same layer
 * @returns the region with what is beyond it; null where nothing was panned, another zoom was taken, or that much was begun already
 */
export function ahead(
  before: Wanted | null,
  { of, region, layer }: Wanted,
  begun: Region | null,
): Region | null {
  if (!before || before.of !== of || before.layer.scale !== layer.scale) return null;
  const [dx, dy] = [region.x - before.region.x, region.y - before.region.y];
  const near = Math.abs(dx) < region.width && Math.abs(dy) < region.height;
  if (!near || (dx === 0 && dy === 0)) return null;
  const [left, right] = further(region.x, region.width, dx);
  const [top, bottom] = further(region.y, region.height, dy);
  const next = clip({ x: left, y: top, width: right - left, height: bottom - top }, layer.size);
  return contains(region, next) || (begun && contains(begun, next)) ? null : next;
}

/** Both ends of an axis, the one that a pan moves to farther off. */
function further(start: number, length: number, by: number): [number, number] {
  const far = Math.max(FURTHER, Math.abs(by));
  const out = (at: number) => Math.ceil((at + far) / STEP) * STEP;
  return [by < 0 ? -out(-start) : start, by > 0 ? out(start + length) : start + length];
}

/** So much of what a pan left behind stays at hand, in pixels of the layer. */
const BEHIND = 256;

/**
 * What is kept of a layer once something more of it arrived: what is wanted, and along a pan what was held beside it, so
 * that nothing is asked for where one goes back.
 */
export function keptAlong(held: Region | null, wanted: Region): Region {
  if (!held) return wanted;
  if (contains(held, wanted)) return held;
  const along = (
    at: 'x' | 'y',
    size: 'width' | 'height',
  ): { start: number; length: number } | null => {
    const [a, b] = at === 'x' ? (['y', 'height'] as const) : (['x', 'width'] as const);
    // What is held must reach over all of the other axis.
    if (held[a] > wanted[a] || held[a] + held[b] < wanted[a] + wanted[b]) return null;
    const start = Math.max(Math.min(held[at], wanted[at]), wanted[at] - BEHIND);
    const wantedEnd = wanted[at] + wanted[size];
    const end = Math.min(Math.max(held[at] + held[size], wantedEnd), wantedEnd + BEHIND);
    return { start, length: end - start };
  };
  const across = along('x', 'width');
  if (across) return { ...wanted, x: across.start, width: across.length };
  const down = along('y', 'height');
  return down ? { ...wanted, y: down.start, height: down.length } : wanted;
}

/** One bitmap of what was held and what arrived. */
export function joined(wanted: Wanted, { held, pieces }: Arrived): Painted {
  const { of, layer } = wanted;
  const region = keptAlong(held?.region ?? null, wanted.region);
  if (held && region === held.region) return { ...held, layer };
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
