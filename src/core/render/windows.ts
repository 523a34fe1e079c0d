import { LRUCache } from 'lru-cache';
import { emptyRaster, paste, rasterBytes, type Window } from '../raster/raster';
import { clip, contains, union, within, type Region } from '../raster/region';
import type { GraphNode } from '../recipe/graph';
import type { Compute, Store } from './store';

/** What an entry of the cache takes besides its pixels and its key. */
const ENTRY_BYTES = 200;
/** How many times what is looked at a window may hold, as one moves on. */
const LARGER = 1.6;

/**
 * Keeps of each node what was last looked at: a changed setting computes what comes after it, whole, and
 * panning just what came into view. Holds at most `limit` bytes, keys included.
 */
export class Windows implements Store {
  private readonly kept: LRUCache<string, Window>;

  constructor(limit: number) {
    this.kept = new LRUCache({
      maxSize: limit,
      sizeCalculation: ({ raster }, key) => rasterBytes(raster) + 2 * key.length + ENTRY_BYTES,
    });
  }

  async read(node: GraphNode, region: Region, compute: Compute): Promise<Window> {
    const before = this.kept.get(node.hash);
    if (before && contains(before.region, region)) return before;
    if (!before || !touches(before.region, region)) {
      // A little beside does not push out what is looked at.
      if (before && area(region) * LARGER < area(before.region)) return compute(region);
      return this.keep(node, await compute(region));
    }
    const both = union(before.region, region);
    const grown = area(both) <= LARGER * Math.max(area(before.region), area(region));
    return this.keep(node, await this.around(node, grown ? both : region, before, compute));
  }

  private keep(node: GraphNode, window: Window): Window {
    this.kept.set(node.hash, window);
    return window;
  }

  /** What is held of a region, and the rest about it. */
  private async around(
    node: GraphNode,
    region: Region,
    before: Window,
    compute: Compute,
  ): Promise<Window> {
    const target: Window = {
      region,
      raster: emptyRaster(region.width, region.height, node.channels),
    };
    paste(before, target);
    for (const part of beside(region, within(before.region, region)))
      paste(await compute(part), target);
    return target;
  }

  /** Bytes that are kept. */
  get bytes(): number {
    return this.kept.calculatedSize;
  }
}

const area = ({ width, height }: Region): number => width * height;

const touches = (a: Region, b: Region): boolean => area(within(a, b)) > 0;

/** The parts of a region above, below, left and right of a part of it. */
function beside(region: Region, inner: Region): Region[] {
  const [right, bottom] = [inner.x + inner.width, inner.y + inner.height];
  const size = { width: region.x + region.width, height: region.y + region.height };
  return [
    { ...region, height: inner.y - region.y },
    { ...region, y: bottom, height: size.height - bottom },
    { x: region.x, y: inner.y, width: inner.x - region.x, height: inner.height },
    { x: right, y: inner.y, width: size.width - right, height: inner.height },
  ]
    .map((part) => clip(part, size))
    .filter(({ width, height }) => width > 0 && height > 0);
}
