import { LRUCache } from 'lru-cache';
import { emptyRaster, paste, rasterBytes, type Window } from '../raster/raster';
import { beside, clip, contains, union, within, type Region, type Size } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';
import type { Compute, Store } from './store';

/** What an entry of the cache takes besides its pixels and its key. */
const ENTRY_BYTES = 200;
/** Margin ahead, in pixels, on the side that one moves to: so that rows don't move with every step. */
const AHEAD = 384;

/** What is held of a node: `have` of it is computed, the rest of `window` is margin. */
interface Held {
  window: Window;
  have: Region;
  /** how much was looked at in the beginning */
  base: Size;
}

/**
 * Keeps of each node what was last looked at: a changed setting computes what comes after it, whole, and
 * panning just what came into view. Holds at most `limit` bytes, keys included.
 */
export class Windows implements Store {
  private readonly kept: LRUCache<string, Held>;

  constructor(limit: number) {
    this.kept = new LRUCache({
      maxSize: limit,
      sizeCalculation: ({ window }, key) =>
        rasterBytes(window.raster) + 2 * key.length + ENTRY_BYTES,
    });
  }

  async read(node: GraphNode, region: Region, compute: Compute): Promise<Window> {
    const held = this.kept.get(node.hash);
    if (held && contains(held.have, region)) return held.window;
    if (!held || !touches(held.have, region)) {
      // A little beside does not push out what is looked at.
      if (held && 2 * area(region) < area(held.have)) return compute(region);
      const window = await compute(region);
      this.kept.set(node.hash, { window, have: window.region, base: window.region });
      return window;
    }
    const next = extended(held, region);
    const window = contains(held.window.region, next) ? held.window : moved(held, next, node);
    for (const part of beside(next, within(held.have, next))) paste(await compute(part), window);
    if (window !== held.window) {
      this.kept.set(node.hash, { window, have: next, base: held.base });
    } else if (contains(next, held.have)) {
      // Another read may have come further meanwhile.
      held.have = next;
    }
    return window;
  }

  missing(node: GraphNode, region: Region): Region[] {
    const held = this.kept.peek(node.hash);
    if (held && contains(held.have, region)) return [];
    if (!held || !touches(held.have, region)) return [region];
    const next = extended(held, region);
    return beside(next, within(held.have, next));
  }

  /** Bytes that are kept. */
  get bytes(): number {
    return this.kept.calculatedSize;
  }
}

const area = ({ width, height }: Region): number => width * height;

/** Whether two regions share a pixel, or lie side by side: what a pan brings into view does. */
function touches(one: Region, { x, y, width, height }: Region): boolean {
  const common = within(one, { x: x - 1, y: y - 1, width: width + 2, height: height + 2 });
  // Where corners meet they share one pixel of the wider region.
  return common.width > 0 && common.height > 0 && area(common) > 1;
}

/** How many times what was looked at in the beginning is held, before what lies behind is let go. */
const MOST = 1.5;

/** What is held once a region beside it is looked at: both, or as much as at the beginning, where one goes. */
function extended({ window, have, base }: Held, region: Region): Region {
  const all = union(have, region);
  if (contains(window.region, all)) return all;
  if (area(all) <= MOST * area({ x: 0, y: 0, ...base })) return all;
  const width = Math.min(all.width, Math.max(base.width, region.width));
  const height = Math.min(all.height, Math.max(base.height, region.height));
  const x = region.x < have.x ? all.x : all.x + all.width - width;
  const y = region.y < have.y ? all.y : all.y + all.height - height;
  // Whatever is let go, the region is not.
  return {
    x: Math.min(Math.max(x, region.x + region.width - width), region.x),
    y: Math.min(Math.max(y, region.y + region.height - height), region.y),
    ...{ width, height },
  };
}

/** A wider window, with a margin where one moves to, and what is held. */
function moved({ window: before, have }: Held, next: Region, node: GraphNode): Window {
  const region = ahead(next, have, node.size);
  const raster = emptyRaster(region.width, region.height, node.form);
  const window = { region, raster };
  paste(before, window);
  return window;
}

/** A region with a margin on the sides where it goes beyond what was looked at before. */
function ahead(region: Region, before: Region, size: Size): Region {
  const left = region.x < before.x ? AHEAD : 0;
  const top = region.y < before.y ? AHEAD : 0;
  const right = region.x + region.width > before.x + before.width ? AHEAD : 0;
  const bottom = region.y + region.height > before.y + before.height ? AHEAD : 0;
  return clip(
    {
      x: region.x - left,
      y: region.y - top,
      width: region.width + left + right,
      height: region.height + top + bottom,
    },
    size,
  );
}
