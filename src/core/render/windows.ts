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
    if (!held || area(within(held.have, region)) === 0) {
      // A little beside does not push out what is looked at.
      if (held && 2 * area(region) < area(held.have)) return compute(region);
      const window = await compute(region);
      this.kept.set(node.hash, { window, have: window.region, base: window.region });
      return window;
    }
    const all = union(held.have, region);
    if (!contains(held.window.region, all)) return this.move(node, region, held, compute);
    for (const part of beside(all, held.have)) paste(await compute(part), held.window);
    // Another read may have come further meanwhile.
    if (contains(all, held.have)) held.have = all;
    return held.window;
  }

  /** A wider margin, where one moves to, with what is held of it. */
  private async move(
    node: GraphNode,
    region: Region,
    held: Held,
    compute: Compute,
  ): Promise<Window> {
    const { window: before, have, base } = held;
    const next = moved(have, region, base);
    const place = ahead(next, have, node.size);
    const window: Window = {
      region: place,
      raster: emptyRaster(place.width, place.height, node.form),
    };
    paste(before, window);
    for (const part of beside(next, within(have, next))) paste(await compute(part), window);
    this.kept.set(node.hash, { window, have: next, base });
    return window;
  }

  /** Bytes that are kept. */
  get bytes(): number {
    return this.kept.calculatedSize;
  }
}

const area = ({ width, height }: Region): number => width * height;

/** How many times what was looked at in the beginning is held, before what lies behind is let go. */
const MOST = 1.5;

/** What is held once a region beside it is looked at: both, or as much as at the beginning, where one goes. */
function moved(have: Region, region: Region, base: Size): Region {
  const all = union(have, region);
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
