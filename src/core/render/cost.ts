import { packingOf } from '../output/output';
import type { Size } from '../raster/region';
import { graphOf } from '../recipe/graph';
import type { Recipe } from '../recipe/recipe';
import { inOrder } from '../recipe/graph-node';

/** Rounding and writing a pixel, of 8 bits or 16. */
const WRITING = { 8: 0.015, 16: 0.037 } as const;
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

/** Seconds that it takes to treat the pictures on a page, before that is drawn. */
export const treating = ({ original }: Recipe): number =>
  (original.drawn?.placed ?? []).reduce((sum, { recipe }) => sum + secondsFor(recipe, 1), 0);

/** What a recipe costs to run: what each node of its graph costs a pixel, once. */
export function costOf(recipe: Recipe): Cost {
  const megapixels = ({ width, height }: Size) => (width * height) / 1e6;
  const { original, target, output } = recipe;
  const cost: Cost = {
    beginning: original.drawn ? treating(recipe) + DRAWING * megapixels(original) : 0,
    result: WRITING[output.depth] * megapixels(target) + ALWAYS,
    encoding: packingOf(output).encoding * megapixels(target),
  };
  for (const node of inOrder(graphOf(recipe).written)) {
    cost[node.grid === 'original' ? 'beginning' : 'result'] += node.cost * megapixels(node.size);
  }
  return cost;
}

/** Seconds that a run takes on a machine so many times as fast as the one of reference. */
export function secondsFor(recipe: Recipe, speed: number): number {
  const { beginning, result, encoding } = costOf(recipe);
  return (beginning + result + encoding) / speed;
}

/** From this share on a run's own speed alone tells what is left. */
const TRUSTED_SHARE = 0.25;

/**
 * Seconds that a run still needs: by the estimate at first, when its own speed says more of its start than of
 * itself, and by that speed later.
 * @param share of the work that is done, 0–1
 * @param spent seconds since it began
 * @param estimated seconds of the whole run
 */
export function secondsLeft(share: number, spent: number, estimated: number): number {
  const trust = Math.min(1, share / TRUSTED_SHARE);
  const byEstimate = estimated * (1 - share);
  const bySpeed = share > 0 ? (spent / share) * (1 - share) : 0;
  return trust * bySpeed + (1 - trust) * byEstimate;
}
