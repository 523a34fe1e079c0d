import { evenCell, cells, strips, union, whole, type Region, type Size } from '../raster/region';
import type { Graph, GraphNode } from '../recipe/graph';

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
const ROWS = 192;
/** Blocks begin at whole pixels of the original, and at whole pairs of them, which cleaners go by. */
const STEP = 8;
/** Below so many microseconds a pixel a node is computed again rather than written and read. */
const WORTH = 0.06;

/** @param threads that parts are shared out between */
export function scheduleOf(graph: Graph, threads: number): Schedule {
  const { result } = graph;
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

/** Every node that leads to one, each after its inputs. */
export function inOrder(result: GraphNode): GraphNode[] {
  const seen = new Set<GraphNode>();
  const visit = (node: GraphNode): void => {
    if (seen.has(node)) return;
    for (const input of node.inputs) visit(input.node);
    seen.add(node);
  };
  visit(result);
  return [...seen];
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
  /** by tile: the first row that later tiles look at */
  keepFrom: number[];
}

/** Tiles of a part, and by node, what is carried over between them. */
export function carryPlans(
  { node: result, rows }: Pick<NodeJob, 'node' | 'rows'>,
  part: Region,
  isSource: (node: GraphNode) => boolean,
): { tiles: Region[]; plans: Map<GraphNode, CarryPlan> } {
  const tiles = strips(part, rows).map((tile) => ({ ...tile, x: part.x, y: part.y + tile.y }));
  const nodes = inOrder(result).reverse();
  const needs = tiles.map((tile) => {
    const needed = new Map<GraphNode, Region>([[result, tile]]);
    for (const node of nodes) {
      const region = needed.get(node);
      if (!region || isSource(node)) continue;
      for (const input of node.inputs) {
        const own = input.region(region);
        const known = needed.get(input.node);
        if (own.width > 0 && own.height > 0) {
          needed.set(input.node, known ? union(known, own) : own);
        }
      }
    }
    return needed;
  });
  const plans = new Map<GraphNode, CarryPlan>();
  for (const node of nodes) {
    const regions = needs.map((needed) => needed.get(node));
    const some = regions.filter((region) => region !== undefined);
    if (some.length < 1 || node === result || isSource(node)) continue;
    const all = some.reduce(union);
    const keepFrom: number[] = [];
    let least = Infinity;
    for (let k = tiles.length - 1; k >= 0; k--) {
      keepFrom[k] = least;
      least = Math.min(least, regions[k]?.y ?? Infinity);
    }
    let held = 0;
    let again =
      nodes.filter((other) => other.inputs.some((input) => input.node === node)).length > 1;
    regions.forEach((region, k) => {
      if (!region) return;
      const bottom = region.y + region.height;
      again ||= keepFrom[k]! < bottom;
      held = Math.max(held, bottom - Math.min(region.y, k > 0 ? keepFrom[k - 1]! : Infinity));
    });
    // What is looked at once is handed on as it is.
    if (!again) continue;
    plans.set(node, { x: all.x, width: all.width, rows: held, keepFrom });
  }
  return { tiles, plans };
}
