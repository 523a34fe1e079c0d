import type { Conversion } from '../colour/conversion';
import type { Transform } from '../colour/engine';
import { ProfileProblem } from '../colour/problem';
import { ModelProblem, type Network } from '../learned/network';
import { cut, paste, pixelsOver, emptyRaster, type Raster, type Window } from '../raster/raster';
import { clip, contains, type Region, type Size } from '../raster/region';
import type { Source } from '../raster/source';
import { graphOf } from '../recipe/graph';
import type { GraphNode, NodeTools } from '../recipe/graph-node';
import type { Recipe } from '../recipe/recipe';
import type { MaskReader } from '../zone/render-zone';
import type { ZoneMap } from '../zone/zone';
import { noStore, type Store } from './store';
import { planned } from './wants';
import { STRENGTH } from '../raster/form';

/** A picture that is computed where it is looked at. */
export interface Rendering {
  size: Size;
  /**
   * The pixels of `region`, exactly those that the whole picture has there.
   * @throws RangeError where the region is empty or leaves the picture; ModelProblem where a model
   *   that the recipe names can't be used; the signal's reason where it was aborted
   */
  read(region: Region, signal?: AbortSignal): Promise<Raster>;
}

/** The same of a node, for whoever reads one region after the other. */
export interface NodeRendering extends Rendering {
  /** As `read`, but not always a copy: not to be written to, and good until the store lets go of it. */
  lend: Rendering['read'];
}

/** What a rendering may use; without one of them, what needs it throws or is computed anew. */
export interface RenderTools {
  /** where pixels of nodes stay between reads */
  store?: Store;
  masks?: MaskReader;
  network?: (digest: string) => Promise<Network>;
  /** to another profile */
  convert?: (conversion: Conversion) => Promise<Transform>;
  /** the pixels of a node, by its hash, where they were computed already */
  materialised?: (hash: string) => Source | undefined;
  /** awaited before each part that is computed, so that others may have their turn */
  between?: () => Promise<void>;
}

/**
 * The result of a recipe on an original, on demand: every node is asked for a region and asks those
 * before it for what that depends on. Nothing is computed until it is read.
 */
export const render = (source: Source, recipe: Recipe, tools: RenderTools = {}): Rendering =>
  renderNode(source, graphOf(recipe).result, tools);

/** The same of any node of a graph. */
export function renderNode(
  source: Source,
  node: GraphNode,
  tools: RenderTools = {},
): NodeRendering {
  const { size } = node;
  const over = async (region: Region, signal?: AbortSignal): Promise<Window> => {
    const inside = clip(region, size);
    if (region.width < 1 || region.height < 1 || !contains(inside, region)) {
      throw new RangeError('render: the region is empty or leaves the picture');
    }
    const read = reader(source, tools, planned(node, region, tools.store ?? noStore));
    return read(node, region, signal);
  };
  return {
    size,
    read: async (region, signal) => cut(await over(region, signal), region),
    lend: async (region, signal) => pixelsOver(await over(region, signal), region),
  };
}

/** The strengths of a zone over a recipe's result, one plane of 0–1; none beside the picture. */
export function renderZone(
  source: Source,
  recipe: Recipe,
  zone: ZoneMap,
  tools: RenderTools = {},
): Rendering {
  const { result, place, strengths } = graphOf(recipe);
  const node = strengths(zone);
  return {
    size: result.size,
    read: async (region, signal) => {
      const raster = emptyRaster(region.width, region.height, STRENGTH);
      const part = clip({ ...region, x: region.x - place.x, y: region.y - place.y }, node.size);
      if (part.width > 0 && part.height > 0) {
        const read = reader(source, tools, planned(node, part, tools.store ?? noStore));
        const found = cut(await read(node, part, signal), part);
        const at = { ...part, x: part.x + place.x, y: part.y + place.y };
        paste({ region: at, raster: found }, { region, raster });
      }
      return raster;
    },
  };
}

type Read = (node: GraphNode, region: Region, signal?: AbortSignal) => Promise<Window>;

/** Lets others have their turn: whatever they were told comes in then. @throws the signal's reason where it was aborted */
export async function pauseWith({ between }: RenderTools, signal?: AbortSignal): Promise<void> {
  await (between ? between() : new Promise((resolve) => setTimeout(resolve, 0)));
  signal?.throwIfAborted();
}

/** Reads nodes: from what is materialised, from the store, or by computing them. */
function reader(source: Source, tools: RenderTools, store: Store): Read {
  const { materialised, between } = tools;
  const toolsFor = (signal?: AbortSignal): NodeTools => ({
    pause: () => pauseWith(tools, signal),
    source: (region) => source.read(region),
    masks: tools.masks ?? noMasks,
    network: tools.network ?? noNetwork,
    convert: tools.convert ?? noEngine,
  });
  const read: Read = async (node, region, signal) => {
    signal?.throwIfAborted();
    const made = materialised?.(node.hash);
    if (made) return { region, raster: await made.read(region) };
    return store.read(node, region, async (part) => {
      await between?.();
      const raster = await node.compute(
        part,
        (input, needed) => read(node.inputs[input]!.node, needed, signal),
        toolsFor(signal),
      );
      return { region: part, raster };
    });
  };
  return read;
}

const noNetwork = (): Promise<Network> =>
  Promise.reject(new ModelProblem('No learned model can be used here.'));

const noEngine = (): Promise<Transform> =>
  Promise.reject(new ProfileProblem('No colours can be converted here.'));

const noMasks = (): never => {
  throw new RangeError('render: a painted zone, and no masks to read');
};
