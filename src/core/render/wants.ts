import { contains, union, type Region } from '../raster/region';
import { inOrder, type GraphNode } from '../recipe/graph-node';
import type { Store } from './store';

/**
 * What all that look at a node want of it together, for a region of the result that is not kept yet: several of them ask
 * for a little more each, and a strip of a few pixels costs hardly less than a wide one.
 */
function wantsOf(result: GraphNode, region: Region, store: Store): Map<string, Region> {
  const wants = new Map([[result.hash, region]]);
  // Each after all that look at it.
  for (const node of inOrder(result).reverse()) {
    const want = wants.get(node.hash);
    const missing = want && store.missing?.(node, want);
    if (!missing) continue;
    for (const part of missing)
      for (const input of node.inputs) {
        const needed = input.region(part);
        if (needed.width < 1 || needed.height < 1) continue;
        const before = wants.get(input.node.hash);
        wants.set(input.node.hash, before ? union(before, needed) : needed);
      }
  }
  return wants;
}

/** A store that has each node computed once for all that look at it, while a region of a result is read. */
export function planned(result: GraphNode, region: Region, store: Store): Store {
  if (!store.missing) return store;
  const wants = wantsOf(result, region, store);
  return {
    read: (node, part, compute) => {
      const want = wants.get(node.hash);
      const together = node.grid === 'target' && want && contains(want, part);
      return store.read(node, together ? want : part, compute);
    },
  };
}
