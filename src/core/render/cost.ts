import type { Size } from '../raster/region';
import { graphOf } from '../recipe/graph';
import type { Recipe } from '../recipe/recipe';
import { inOrder } from './schedule';

/** Rounding and writing a pixel, of 8 bits or 16; and encoding one in another format than TIFF. */
const WRITING = { 8: 0.015, 16: 0.06 } as const;
const ENCODING = { tiff: 0, jpeg: 0.026, png: 0.057 } as const;
/** Drawing a pixel from shapes. */
const DRAWING = 0.1;
/** Seconds that every run takes: starting, reading back. */
const ALWAYS = 0.1;

/** Seconds that the parts of a run take on the machine of reference. */
export interface Cost {
  /** what is done at the original's size, or drawing */
  beginning: number;
  /** what is done at the target's size, and writing it */
  result: number;
  encoding: number;
}

/** What a recipe costs to run: what each node of its graph costs a pixel, once. */
export function costOf(recipe: Recipe): Cost {
  const megapixels = ({ width, height }: Size) => (width * height) / 1e6;
  const { original, target, output } = recipe;
  const cost: Cost = {
    beginning: original.drawn ? DRAWING * megapixels(original) : 0,
    result: WRITING[output.depth] * megapixels(target) + ALWAYS,
    encoding: ENCODING[output.format] * megapixels(target),
  };
  for (const node of inOrder(graphOf(recipe).result)) {
    cost[node.grid === 'original' ? 'beginning' : 'result'] += node.cost * megapixels(node.size);
  }
  return cost;
}

/** Seconds that a run takes on a machine so many times as fast as the one of reference. */
export function secondsFor(recipe: Recipe, speed: number): number {
  const { beginning, result, encoding } = costOf(recipe);
  return (beginning + result + encoding) / speed;
}

/** What runs are alike in, as far as their speed goes: how they enlarge. */
export const throughputKey = (recipe: Recipe): string => graphOf(recipe).enlargedBy;
