import { LRUCache } from 'lru-cache';
import { cut, emptyRaster, paste, rasterBytes, type Raster, type Window } from '../raster/raster';
import { cells, union, type Region } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';
import type { Compute, Store } from './store';

/** Side of the cells that nodes are kept in, on an absolute grid. */
const CELL = 64;
/** What an entry of the cache takes besides its pixels and its key. */
const ENTRY_BYTES = 200;

/**
 * Keeps nodes in cells on an absolute grid, wherever they are looked at. Holds at most `limit` bytes, keys included; what was not used for longest goes first.
 */
export class Cells implements Store {
  private readonly kept: LRUCache<string, Raster>;

  constructor(limit: number) {
    this.kept = new LRUCache({
      maxSize: limit,
      sizeCalculation: (raster, key) => rasterBytes(raster) + 2 * key.length + ENTRY_BYTES,
    });
  }

  async read(node: GraphNode, region: Region, compute: Compute): Promise<Window> {
    // What hardly costs more than a copy would only push out what does.
    if (node.cost === 0 && node.inputs.length < 2) return compute(region);
    const raster = emptyRaster(region.width, region.height, node.form);
    const missing = new Map<string, Region[]>();
    for (const cell of cells(region, CELL, node.size)) {
      const known = this.kept.get(keyOf(node, cell));
      if (known) paste({ region: cell, raster: known }, { region, raster });
      else {
        const block = `${Math.floor(cell.x / node.block)},${Math.floor(cell.y / node.block)}`;
        missing.set(block, [...(missing.get(block) ?? []), cell]);
      }
    }
    for (const block of missing.values()) {
      const window = await compute(block.reduce(union));
      paste(window, { region, raster });
      for (const cell of block) this.kept.set(keyOf(node, cell), cut(window, cell));
    }
    return { region, raster };
  }

  /** Bytes that are kept. */
  get bytes(): number {
    return this.kept.calculatedSize;
  }
}

const keyOf = ({ hash }: GraphNode, { x, y }: Region): string => `${hash}#${x},${y}`;
