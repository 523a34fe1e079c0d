import { clip, type Region, type Size } from '@/core/raster/region';
import type { Rect } from '@/core/frame/framing';
import type { SettledStep } from '@/core/steps';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { LEVELS } from '@/core/treatment/tiles';
import {
  atScale,
  beforeEnlarging,
  classically,
  fromHalved,
  unmagnified,
  untreated,
} from '@/core/treatment/settle';
import type { Against } from '@/preview/client';
import type { Zoom } from '../view-store';

/** One picture on the stage: what is rendered, and how its grid lies under the view. */
export interface Layer {
  recipe: SettledRecipe;
  /** the rendered grid, in its pixels */
  size: Size;
  /** the part of the grid that is the paper (real-valued) */
  paper: Rect;
  /** how often the original is halved before it is rendered from; only in small renderings */
  level: number;
  /** device pixels of the screen to one pixel of the grid */
  scale: number;
  /** whether its pixels are the very numbers of the result, not a small rendering */
  exact: boolean;
  caption: string;
  /** shows how the rendering differs from this one */
  against?: Against;
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

/**
 * The part of the frame that lies under the whole sheet: what the enlargement takes, and as much
 * more as margins and bleed would cover.
 */
export function sheetOnFrame(recipe: SettledRecipe): Rect {
  const enlarged = enlargementOf(recipe);
  const source = enlarged?.source ?? { x: 0, y: 0, ...sizeOf(recipe.original) };
  const picture = enlarged ?? recipe.original;
  const mounted = recipe.steps.find((step) => step.kind === 'mount')?.numbers;
  if (!mounted) return source;
  const x = source.width / picture.width;
  const y = source.height / picture.height;
  return {
    x: source.x - mounted.x * x,
    y: source.y - mounted.y * y,
    width: mounted.width * x,
    height: mounted.height * y,
  };
}

/** The resampling as if no network came before it: on the frame's own pixels. */
const enlargementOf = (recipe: SettledRecipe) =>
  unmagnified(recipe).steps.find((step) => step.kind === 'enlarge')?.numbers;

const sizeOf = ({ width, height }: Size): Size => ({ width, height });

/** Pixels of a rendering to one of the original's grid. */
function onOriginal(recipe: SettledRecipe): number {
  const enlarged = enlargementOf(recipe);
  return enlarged ? enlarged.width / enlarged.source.width : 1;
}

/** Layers on the result's grid: the treated picture, or the original as it would print untreated. */
export function resultLayer(recipe: SettledRecipe, scale: number, treated: boolean): Layer {
  const shown = treated ? recipe : untreated(recipe);
  // Small renderings are no exact pixels anyway: a network's refinement isn't waited for.
  const small = scale < 1 ? atScale(classically(shown), scale) : shown;
  // How often the original may be halved meanwhile.
  const pixels = onOriginal(small);
  const repeated = pixels >= 1;
  const level = Math.min(LEVELS, Math.max(0, Math.floor(Math.log2(1 / pixels))));
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
  const before = beforeEnlarging(recipe, treated);
  return {
    recipe: before,
    level: 0,
    size: sizeOf(before.target),
    paper: sheetOnFrame(recipe),
    scale,
    exact: true,
    caption: treated ? 'cleaned, before enlarging' : 'as it came',
  };
}

/**
 * The whole turned and straightened picture, uncropped, for laying a paper or a crop on it.
 * @param frame its size in its own pixels
 * @param scale device pixels to one of them, at most 1 is computed
 * @param shown what of the frame, and beyond it, the view is to hold
 */
export function frameLayer(recipe: SettledRecipe, frame: Size, scale: number, shown: Rect): Layer {
  const computed = Math.min(1, scale);
  const size = {
    width: Math.max(1, Math.round(frame.width * computed)),
    height: Math.max(1, Math.round(frame.height * computed)),
  };
  const source = { x: 0, y: 0, ...frame };
  const enlarged = recipe.steps.find((step) => step.kind === 'enlarge')?.numbers;
  const { drawn } = recipe.original;
  const steps: SettledStep[] = drawn
    ? []
    : [
        ...recipe.steps.filter((step) => step.kind === 'regrid'),
        {
          kind: 'enlarge',
          strength: 100,
          numbers: {
            ...{ method: 'bilinear', light: 'gamma', limit: 0, step: 10, source, ...size },
            turn: enlarged?.turn ?? 0,
            straighten: enlarged?.straighten ?? 0,
          },
        },
      ];
  const original = drawn
    ? { ...recipe.original, ...size, drawn: { ...drawn, source } }
    : recipe.original;
  const level = Math.min(LEVELS, Math.max(0, Math.floor(Math.log2(1 / computed))));
  const x = size.width / frame.width;
  const y = size.height / frame.height;
  return {
    recipe: fromHalved(
      { ...recipe, original, steps, target: { ...recipe.target, ...size } },
      level,
    ),
    level: drawn ? 0 : level,
    size,
    paper: { x: shown.x * x, y: shown.y * y, width: shown.width * x, height: shown.height * y },
    scale: scale / computed,
    exact: false,
    caption: '',
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
