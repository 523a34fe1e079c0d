import { clip, type Region, type Size } from '@/core/raster/region';
import { MM_PER_INCH } from '@/core/measure/units';
import { LEVELS } from '@/core/raster/tiles';
import type { Rect } from '@/core/frame/framing';
import type { Proof } from '@/core/colour/proof';
import type { Recipe } from '@/core/recipe/recipe';
import {
  atScale,
  beforeEnlarging,
  classically,
  isTraced,
  fromHalved,
  resampledPart,
  sheetOnFrame,
  smoothly,
  untreated,
  wholeFrame,
} from '@/core/recipe/views';
import type { Against, PreviewOriginal } from '@/preview/client';
import type { PaneOriginal } from '../../preview-original';
import type { Zoom } from '../viewport';
import { say } from '@/core/words/say';

/** One picture on the stage: what is rendered of which original, and how its grid lies under the view. */
export interface Layer {
  original: PreviewOriginal;
  recipe: Recipe;
  /** the rendered grid, in its pixels */
  size: Size;
  /** the part of the grid that is the paper (real-valued) */
  paper: Rect;
  /** device pixels of the screen to one pixel of the grid */
  scale: number;
  /** whether its pixels are the very numbers of the result, not a small rendering */
  exact: boolean;
  caption: string;
  /** shows how the rendering differs from this one */
  against?: Against;
  /** shows it as its print would look */
  proof?: Proof;
}

/** An original as a recipe reads it, halved so many times before. */
const readBy = (original: PaneOriginal, recipe: Recipe, level = 0): PreviewOriginal => ({
  ...original,
  level,
  size: { width: recipe.original.width, height: recipe.original.height },
  drawn: recipe.original.drawn,
});

/** How large a print shows on the screen, once that is measured. */
export interface Sized {
  /** device pixels to a millimetre of the screen */
  perMm: number;
  /** metres from the eye to the screen, and to the print */
  sitting: number;
  distance: number;
}

/** Device pixels to one result pixel under a zoom. @param sized null where the screen isn't measured: all is shown */
export function resultScale(
  zoom: Zoom,
  recipe: Recipe,
  factor: number,
  view: Size,
  sized: Sized | null = null,
): number {
  const { width, height, ppi } = recipe.target;
  if (sized && (zoom.of === 'size' || zoom.of === 'distance')) {
    const own = (sized.perMm * MM_PER_INCH) / ppi;
    // What is seen under the same angle looks as large.
    return zoom.of === 'size' ? own : (own * sized.sitting) / sized.distance;
  }
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

/** How often an original may be halved where so many pixels of a rendering show one of it. */
const halvings = (pixels: number): number =>
  Math.min(LEVELS, Math.max(0, Math.floor(Math.log2(1 / pixels))));

/** Pixels of a rendering to one of the original's grid. */
function onOriginal(recipe: Recipe): number {
  const part = resampledPart(recipe);
  return part ? part.width / part.source.width : 1;
}

/**
 * Layers on the result's grid: the treated picture, or the original as it would print untreated.
 * @param seen what is done to an untreated one, so that it is seen as what it is compared with
 */
export function resultLayer(
  original: PaneOriginal,
  recipe: Recipe,
  scale: number,
  treated: boolean,
  seen: (recipe: Recipe) => Recipe = (one) => one,
): Layer {
  const shown = treated ? recipe : seen(untreated(recipe));
  // Small renderings are no exact pixels anyway: a network's refinement isn't waited for, but for edges that are drawn
  // fresh, wherever they show.
  const scaled = scale < 1 ? atScale(shown, scale) : shown;
  const pixels = onOriginal(scaled);
  const fresh = isTraced(shown) && pixels > 1;
  const small = scale < 1 && !fresh ? classically(scaled) : scaled;
  const repeated = pixels >= 1;
  const level = halvings(pixels);
  const halved = fromHalved(treated || repeated ? small : smoothly(small), level);
  const { width, height } = small.target;
  return {
    original: readBy(original, halved, level),
    recipe: halved,
    size: { width, height },
    paper: { x: 0, y: 0, width, height },
    scale: Math.max(1, scale),
    exact: scale >= 1,
    caption: treated ? '' : repeated ? say`pixels as they print` : say`reduced to fit`,
  };
}

/**
 * A print from nearer than the file's pixels: in the screen's own pixels, so that its dots show.
 * @param seen what is done to it, so that it is seen as what it is compared with
 */
export const dotsLayer = (
  original: PaneOriginal,
  recipe: Recipe,
  scale: number,
  seen: (recipe: Recipe) => Recipe,
): Layer => resultLayer(original, atScale(seen(untreated(recipe)), scale), 1, true);

/** Layers on the original's own grid: cleaned, or as it came. */
export function originalLayer(
  original: PaneOriginal,
  recipe: Recipe,
  scale: number,
  treated: boolean,
): Layer {
  const before = beforeEnlarging(recipe, treated);
  return {
    original: readBy(original, before),
    recipe: before,
    size: { width: before.target.width, height: before.target.height },
    paper: sheetOnFrame(recipe),
    scale,
    exact: true,
    caption: treated ? say`cleaned, before enlarging` : say`untouched`,
  };
}

/**
 * The whole turned and straightened picture, uncropped, for laying a paper or a crop on it.
 * @param frame its size in its own pixels
 * @param scale device pixels to one of them, at most 1 is computed
 * @param shown what of the frame, and beyond it, the view is to hold
 */
export function frameLayer(
  original: PaneOriginal,
  recipe: Recipe,
  frame: Size,
  scale: number,
  shown: Rect,
): Layer {
  const computed = Math.min(1, scale);
  const size = {
    width: Math.max(1, Math.round(frame.width * computed)),
    height: Math.max(1, Math.round(frame.height * computed)),
  };
  const level = recipe.original.drawn ? 0 : halvings(computed);
  const seen = fromHalved(wholeFrame(recipe, frame, size), level);
  const x = size.width / frame.width;
  const y = size.height / frame.height;
  return {
    original: readBy(original, seen, level),
    recipe: seen,
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
