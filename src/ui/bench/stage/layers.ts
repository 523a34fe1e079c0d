import { clip, type Region, type Size } from '@/core/raster/region';
import type { SourceRect } from '@/core/measure/plan';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { LEVELS } from '@/core/treatment/tiles';
import { atScale, beforeEnlarging, fromHalved, untreated } from '@/core/treatment/settle';
import type { Zoom } from '../view-store';

/** One picture on the stage: what is rendered, and how its grid lies under the view. */
export interface Layer {
  recipe: SettledRecipe;
  /** the rendered grid, in its pixels */
  size: Size;
  /** the part of the grid that is the paper (real-valued) */
  paper: SourceRect;
  /** how often the original is halved before it is rendered from; only in small renderings */
  level: number;
  /** device pixels of the screen to one pixel of the grid */
  scale: number;
  /** whether its pixels are the very numbers of the result, not a small rendering */
  exact: boolean;
  caption: string;
}

/** Device pixels to one result pixel under a zoom. */
export function resultScale(zoom: Zoom, recipe: SettledRecipe, factor: number, view: Size): number {
  const { width, height } = recipe.target;
  if (zoom.of === 'result') return zoom.scale;
  if (zoom.of === 'original') return zoom.scale / factor;
  const margin = 32;
  return Math.min(
    Math.max(1, view.width - margin) / width,
    Math.max(1, view.height - margin) / height,
    // Small results are not blown up beyond what shows their pixels.
    16,
  );
}

/** The rectangle of the original that the enlargement takes. */
export const sourceOf = (recipe: SettledRecipe): SourceRect => {
  for (const step of recipe.steps) if (step.kind === 'enlarge') return step.numbers.source;
  return { x: 0, y: 0, ...recipe.original };
};

/** Layers on the result's grid: the treated picture, or the original as it would print untreated. */
export function resultLayer(recipe: SettledRecipe, scale: number, treated: boolean): Layer {
  const shown = treated ? recipe : untreated(recipe);
  const small = scale < 1 ? atScale(shown, scale) : shown;
  const source = sourceOf(recipe);
  // Pixels of the rendering to one of the original, and how often that may be halved meanwhile.
  const onOriginal = (recipe.target.width * Math.min(1, scale)) / source.width;
  const repeated = onOriginal >= 1;
  const level = Math.min(LEVELS, Math.max(0, Math.floor(Math.log2(1 / onOriginal))));
  return {
    recipe: fromHalved(treated || repeated ? small : smoothly(small), level),
    level,
    size: { width: small.target.width, height: small.target.height },
    paper: { x: 0, y: 0, width: small.target.width, height: small.target.height },
    scale: Math.max(1, scale),
    exact: scale >= 1,
    caption: treated ? '' : repeated ? 'pixels as they print' : 'reduced to fit',
  };
}

/** Repeated pixels can't be shown smaller than they are; then they are averaged. */
const smoothly = (recipe: SettledRecipe): SettledRecipe => ({
  ...recipe,
  steps: recipe.steps.map((step) =>
    step.kind === 'enlarge'
      ? { ...step, numbers: { ...step.numbers, method: 'bilinear' as const } }
      : step,
  ),
});

/** Layers on the original's own grid: cleaned, or as it came. */
export function originalLayer(recipe: SettledRecipe, scale: number, treated: boolean): Layer {
  const before = beforeEnlarging(recipe);
  return {
    recipe: treated ? before : { ...before, steps: [] },
    level: 0,
    size: recipe.original,
    paper: sourceOf(recipe),
    scale,
    exact: true,
    caption: treated ? 'cleaned, before enlarging' : 'as it came',
  };
}

/** Where a layer's grid lies in the view: device pixels of its origin, whole so that pixels meet. */
export function placeOf(layer: Layer, centre: { x: number; y: number }, view: Size) {
  const x = layer.paper.x + centre.x * layer.paper.width;
  const y = layer.paper.y + centre.y * layer.paper.height;
  return {
    left: Math.round(view.width / 2 - x * layer.scale),
    top: Math.round(view.height / 2 - y * layer.scale),
  };
}

/** The pixels of a layer's grid that show in the view; never beyond the paper. */
export function visible(layer: Layer, centre: { x: number; y: number }, view: Size): Region {
  const { left, top } = placeOf(layer, centre, view);
  const x = Math.floor(-left / layer.scale);
  const y = Math.floor(-top / layer.scale);
  return clip(
    {
      x,
      y,
      width: Math.ceil((view.width - left) / layer.scale) - x,
      height: Math.ceil((view.height - top) / layer.scale) - y,
    },
    layer.size,
  );
}
