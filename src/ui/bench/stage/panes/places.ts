import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import type { WorkBench } from '../../use-work';
import { placeOf, type Layer } from './layers';
import { sheetOnFrame } from '@/core/recipe/views';

/** Where the paper lies in a pane, in CSS pixels. */
export function paperPlace(layer: Layer, view: Size, centre: { x: number; y: number }): Rect {
  const { left, top } = placeOf(layer, centre, view);
  const ratio = devicePixelRatio || 1;
  return {
    x: (left + layer.paper.x * layer.scale) / ratio,
    y: (top + layer.paper.y * layer.scale) / ratio,
    width: (layer.paper.width * layer.scale) / ratio,
    height: (layer.paper.height * layer.scale) / ratio,
  };
}

/**
 * Where the whole original and the paper lie on the stage, in CSS pixels; null where the original
 * is turned or not itself.
 */
export function placesOf(
  bench: WorkBench,
  layer: Layer,
  view: Size,
  centre: { x: number; y: number },
): { original: Rect; paper: Rect } | null {
  const { resolved, original, work } = bench;
  const { turn, straighten, grid } = work.framing;
  if (!resolved.ok || turn !== 0 || straighten !== 0 || grid || original.vector) return null;
  const sheet = sheetOnFrame(resolved.recipe);
  const paper = paperPlace(layer, view, centre);
  const across = paper.width / sheet.width;
  const down = paper.height / sheet.height;
  return {
    paper,
    original: {
      x: paper.x - sheet.x * across,
      y: paper.y - sheet.y * down,
      width: original.size.width * across,
      height: original.size.height * down,
    },
  };
}
