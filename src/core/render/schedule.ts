import { evenCell, cells, strips, union, whole, type Region, type Size } from '../raster/region';
import type { Graph } from '../recipe/graph';
import { inOrder, type GraphNode } from '../recipe/graph-node';

/**
 * How a run goes over a graph, so that every pixel of a node is computed once: some nodes are materialised,
 * one after the other, before the result; each is computed in parts that threads share out; and within a
 * part, which is walked down in tiles, what the next tile looks at again is carried over.
 */
export interface Schedule {
  /** in the order in which they are computed; the last one is the result */
  jobs: NodeJob[];
}

/** A node that is computed whole. */
export interface NodeJob {
  node: GraphNode;
  /** parts that are computed on their own, by any thread */
  parts: Region[];
  /** rows of the tiles that a part is walked down in */
  rows: number;
}

/** Columns of a result: narrow enough for memory to stay flat, wide enough that rims don't count. */
const COLUMN = 3264;
/** Rows of a tile. */
const ROWS = 256;
/** Blocks begin at whole pixels of the original, and at whole pairs of them, which cleaners go by. */
const STEP = 8;
/** Below so many microseconds a pixel a node is computed again rather than written and read. */
const WORTH = 0.06;

/** @param threads that parts are shared out between */
export function scheduleOf(graph: Graph, threads: number): Schedule {
  const { written: result } = graph;
  const nodes = inOrder(result);
  const jobs = nodes
    .filter((node) => node !== result && isMaterialised(node, nodes))
    .map((node) => {
      const block = evenCell(node.size, node.block, STEP);
      return { node, parts: cells(whole(node.size), block, node.size), rows: block.height };
    });
  return { jobs: [...jobs, { node: result, parts: columnsOf(result.size, threads), rows: ROWS }] };
}

/** Upright parts of a result, a multiple of the threads, so that all end together. */
function columnsOf(size: Size, threads: number): Region[] {
  const least = Math.ceil(size.width / COLUMN);
  const count = Math.ceil(least / threads) * threads;
  const width = Math.max(64, Math.ceil(size.width / count / 16) * 16);
  return cells(whole(size), { width, height: size.height }, size);
}

/**
 * What is worth its place on disk: what was dear on the original's grid and is looked at from another
 * one, in no particular order and by every part again; and what a network enlarges.
 */
function isMaterialised(node: GraphNode, nodes: readonly GraphNode[]): boolean {
  if (node.grid !== 'original' || dearness(node) < WORTH) return false;
  return nodes.some(
    (other) =>
      other.inputs.some((input) => input.node === node) &&
      (other.size.width !== node.size.width || other.size.height !== node.size.height),
  );
}

/** Microseconds a pixel of a node and of all on its grid that it is computed from. */
function dearness(node: GraphNode): number {
  const own = inOrder(node).filter(({ size }) => size.width === node.size.width);
  return own.reduce((sum, { cost }) => sum + cost, 0);
}

/** What of a node a part of a job needs, and how much of it stays from tile to tile. */
export interface CarryPlan {
  /** columns that all tiles together need */
  x: number;
  width: number;
  /** the most rows that are held at a time */
  rows: number;
  /** by tile: the rows that are needed for it, and the first one that later tiles look at */
  tiles: TileRows[];
}

/** Rows of a node from `from` to before `to`, none where that is not beyond it. */
interface TileRows {
  from: number;
  to: number;
  keepFrom: number;
}

/** Tiles of a part, and by node, what is carried over between them. */
export function carryPlans(
  { node: result, rows }: Pick<NodeJob, 'node' | 'rows'>,
  part: Region,
  isSource: (node: GraphNode) => boolean,
): { tiles: Region[]; plans: Map<GraphNode, CarryPlan> } {
  const tiles = strips(part, rows).map((tile) => ({ ...tile, x: part.x, y: part.y + tile.y }));
  const plans = new Map<GraphNode, CarryPlan>();
  /** by node and tile: what is computed of it */
  const computed = new Map<GraphNode, (Region | undefined)[]>([[result, tiles]]);
  // What looks at a node comes before it.
  const nodes = inOrder(result).reverse();
  for (const node of nodes) {
    if (node === result || isSource(node)) continue;
    const consumers = nodes.flatMap((other) =>
      isSource(other)
        ? []
        : other.inputs.filter((input) => input.node === node).map((input) => ({ other, input })),
    );
    const needed = tiles.map((_, k) =>
      consumers
        .flatMap(({ other, input }) => {
          const region = computed.get(other)?.[k];
          return region ? [input.region(region)] : [];
        })
        .filter(({ width, height }) => width > 0 && height > 0)
        .reduce<Region | undefined>((all, one) => (all ? union(all, one) : one), undefined),
    );
    const plan = planOf(needed);
    // What is looked at once is handed on as it is.
    const again =
      plan && (consumers.length > 1 || plan.tiles.some(({ to, keepFrom }) => keepFrom < to));
    if (again) plans.set(node, plan);
    computed.set(node, again ? missingRows(plan) : needed);
  }
  return { tiles, plans };
}

function planOf(needed: readonly (Region | undefined)[]): CarryPlan | undefined {
  const some = needed.filter((region) => region !== undefined);
  if (some.length === 0) return undefined;
  const { x, width } = some.reduce(union);
  const tiles = needed.map((region) => ({
    from: region?.y ?? Infinity,
    to: region ? region.y + region.height : -Infinity,
    keepFrom: Infinity,
  }));
  for (let k = tiles.length - 2; k >= 0; k--) {
    tiles[k]!.keepFrom = Math.min(tiles[k + 1]!.from, tiles[k + 1]!.keepFrom);
  }
  const held = tiles.map(({ from, to }, k) => to - Math.min(from, tiles[k - 1]?.keepFrom ?? from));
  return { x, width, tiles, rows: Math.max(...held) };
}

/** What is computed of a carried node for each tile: the rows that those before it did not need. */
function missingRows({ x, width, tiles }: CarryPlan): (Region | undefined)[] {
  let bottom = -Infinity;
  return tiles.map(({ from, to }) => {
    const y = Math.max(from, bottom);
    bottom = Math.max(bottom, to);
    return y < to ? { x, width, y, height: to - y } : undefined;
  });
}
