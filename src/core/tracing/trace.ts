import { premultiplied } from '../raster/alpha';
import type { Raster } from '../raster/raster';
import { findAreas, steepness, withoutAreas } from './areas';
import { boundariesOf } from './boundaries';
import { bounded } from './bounded';
import { edgeOf } from './edges';
import { fillsOf } from './fills';
import { layersOf } from './layers';
import { mergeAreas, renumbered } from './merging';
import { lineOf } from './points';
import { tidied } from './tidy';
import type { Tracing } from './tracing';

/** What an edge between two areas is worth, in levels squared: first alike ones are made one, then less alike ones. */
const WORTH = [50, 250, 1000];

/**
 * Traces a picture: its areas, what they are filled with, and the edges between them as curves.
 * @param pixel sides of the pixels that a network made it from, in its own; 1 where none did
 */
export function trace(raster: Raster, pixel = 1): Tracing {
  const parts = tracedInParts(raster, pixel);
  for (;;) {
    const { value } = parts.next();
    if (value) return value;
  }
}

/** The same, with pauses in which whoever waits for it may tell it to stop. @param pause rejects where it did */
export async function traceWithPauses(
  raster: Raster,
  pixel: number,
  pause: () => Promise<void>,
): Promise<Tracing> {
  const parts = tracedInParts(raster, pixel);
  for (;;) {
    const { value } = parts.next();
    if (value) return value;
    await pause();
  }
}

/** Edges that are followed from one pause to the next. */
const EDGES = 500;

function* tracedInParts(raster: Raster, pixel: number): Generator<undefined, Tracing> {
  const picture = bounded(raster.form.alpha ? premultiplied(raster) : raster, pixel);
  yield;
  const steep = steepness(picture);
  let areas = findAreas(picture, steep);
  yield;
  let fills = fillsOf(picture, areas, steep);
  for (const worth of WORTH) {
    yield;
    areas = mergeAreas(areas, fills, worth);
    yield;
    fills = fillsOf(picture, areas, steep);
    const layers = layersOf(areas, fills);
    if (layers) areas = withoutAreas(picture, areas, fills, layers);
    yield;
    areas = tidied(picture, areas, fills);
  }
  areas = renumbered(areas, (area) => area);
  fills = fillsOf(picture, areas, steep);
  const edges: Tracing['edges'] = [];
  for (const boundary of boundariesOf(areas)) {
    if (edges.length % EDGES === 0) yield;
    edges.push(edgeOf(lineOf(picture, areas, fills, boundary)));
  }
  return {
    size: { width: raster.width, height: raster.height },
    channels: raster.form.alpha ? 4 : 3,
    fills,
    edges,
  };
}
