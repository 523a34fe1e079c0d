import { framePlaces } from '@/core/frame/places';
import type { Size } from '@/core/raster/region';
import { framingOf } from '@/core/recipe/plan';
import type { WorkBench } from '../../use-work';
import { sheetOnFrame } from '@/core/recipe/views';
import type { Layer } from '../panes/layers';
import { paperPlace } from '../panes/places';

/** How places on the stage, in CSS pixels, and on the original's grid answer each other. */
export interface OnPicture {
  toGrid(x: number, y: number): [number, number];
  toStage(x: number, y: number): [number, number];
  /** CSS pixels to one pixel of the original */
  scale: number;
}

/** The ways between a layer as it lies on the stage and the original's grid. */
export function onPicture(
  bench: WorkBench,
  layer: Layer,
  view: Size,
  centre: { x: number; y: number },
): OnPicture | null {
  const { resolved, original, work } = bench;
  if (!resolved.ok || original.vector) return null;
  const sheet = sheetOnFrame(resolved.recipe);
  const paper = paperPlace(layer, view, centre);
  const places = framePlaces(original.size, framingOf(original, work));
  const across = paper.width / sheet.width;
  const down = paper.height / sheet.height;
  return {
    scale: across,
    toGrid: (x, y) =>
      places.toGrid(sheet.x + (x - paper.x) / across, sheet.y + (y - paper.y) / down),
    toStage: (x, y) => {
      const [u, v] = places.toFrame(x, y);
      return [paper.x + (u - sheet.x) * across, paper.y + (v - sheet.y) * down];
    },
  };
}
