import type { Conversion } from '../colour/conversion';
import type { Transform } from '../colour/engine';
import type { Network } from '../learned/network';
import type { Form } from '../raster/form';
import type { Raster, Window } from '../raster/raster';
import type { Region, Size } from '../raster/region';
import type { MaskReader } from '../zone/render-zone';

/** What nodes may use besides their inputs. */
export interface NodeTools {
  /** the original's pixels */
  source(region: Region): Promise<Raster>;
  masks: MaskReader;
  /** @throws ModelProblem where the model of that digest is missing or damaged */
  network(digest: string): Promise<Network>;
  /** to another profile. @throws ProfileProblem where it is missing or can't be used */
  convert(conversion: Conversion): Promise<Transform>;
  /** lets others have their turn in what takes long. @throws the reason where whoever waits was told to stop */
  pause(): Promise<void>;
}

/** One of a node's inputs: which node, and what of it `region` of the result depends on. */
export interface Input {
  node: GraphNode;
  region(region: Region): Region;
}

/** Reads an input, by its place among them, over at least a region. */
export type ReadInput = (input: number, region: Region) => Promise<Window>;

/** What is computed at one place of the way from the original to the result. */
export interface GraphNode {
  /** of all that led here: it names the node's pixels everywhere */
  hash: string;
  size: Size;
  /** which grid it lies on */
  grid: 'original' | 'target';
  /** what its planes hold */
  form: Form;
  /** whether they are rounded to numbers of 16 bits */
  fixed?: true | undefined;
  inputs: readonly Input[];
  /** microseconds a pixel on the machine of reference; 0 where it is hardly more than a copy */
  cost: number;
  /** the longest side of the blocks that it is best computed in */
  block: number;
  /** Computes a region of it. */
  compute(region: Region, read: ReadInput, tools: NodeTools): Raster | Promise<Raster>;
}

/** What of an input is needed where it is looked at pixel by pixel. */
export const same = (region: Region): Region => region;

/** The longest side of a block where a stage says no other: what lies about a block is computed too. */
export const BLOCK = 512;

/** Makes a node, or finds the one that is the same. @param parts what it does; its inputs name themselves */
export type MakeNode = (parts: unknown[], of: Omit<GraphNode, 'hash'>) => GraphNode;

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
