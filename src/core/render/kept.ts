import type { Window } from '../raster/raster';
import type { Region } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';
import { Cells } from './cells';
import type { Compute, Store } from './store';
import { Windows } from './windows';

/**
 * What stays between looks. On the original's grid nodes are dear and looked at from everywhere: they are
 * kept in cells. On the target's they are many and looked at in one place: the last window of each is kept.
 */
export class Kept implements Store {
  private readonly cells: Cells;
  private readonly windows: Windows;

  /** @param limit bytes, keys included */
  constructor(limit: number) {
    this.cells = new Cells(limit / 4);
    this.windows = new Windows((3 * limit) / 4);
  }

  read(node: GraphNode, region: Region, compute: Compute): Promise<Window> {
    const store = node.grid === 'original' ? this.cells : this.windows;
    return store.read(node, region, compute);
  }

  missing(node: GraphNode, region: Region): Region[] | null {
    return node.grid === 'original' ? null : this.windows.missing(node, region);
  }

  /** Bytes that are kept. */
  get bytes(): number {
    return this.cells.bytes + this.windows.bytes;
  }
}
