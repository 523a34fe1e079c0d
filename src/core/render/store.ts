import type { Window } from '../raster/raster';
import type { Region } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';

/** Computes a region of a node anew. */
export type Compute = (region: Region) => Promise<Window>;

/** Where pixels of nodes stay between reads: in cells for looking, row by row for a run. */
export interface Store {
  /** A window over at least `region` of a node, from what is kept and by `compute` for the rest. */
  read(node: GraphNode, region: Region, compute: Compute): Promise<Window>;
  /** What such a read would have computed; of stores for looking. Null where nobody knows before. */
  missing?(node: GraphNode, region: Region): Region[] | null;
}

/** Keeps nothing. */
export const noStore: Store = { read: (_, region, compute) => compute(region) };
