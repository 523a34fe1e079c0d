import type { Size } from '../raster/region';

/** Slopes among the steepest of so many count as edges. */
const EDGES = 0.01;
/** An edge must climb so far to count, on the 0–1 scale. */
const CLIMBS = 0.08;

/** Where a picture has its hardest upright and level edges. */
export interface EdgePlace {
  at: number;
  /** from a pixel to the next across the edge, in pixels of the plane */
  stride: number;
  /** how far it climbs there, on the 0–1 scale */
  climb: number;
}

/**
 * Places on the hardest edges of a plane, along rows and columns.
 * @param reach pixels on both sides that must lie on the plane
 */
export function findEdges(plane: Float32Array, size: Size, reach: number): EdgePlace[] {
  const { width, height } = size;
  const found: { at: number; stride: number; slope: number }[] = [];
  for (let y = reach; y < height - reach; y++)
    for (let x = reach; x < width - reach; x++) {
      const at = y * width + x;
      for (const stride of [1, width]) {
        const slope = Math.abs(plane[at + stride]! - plane[at]!);
        // Only an edge's steepest place, once.
        if (
          slope > CLIMBS / 4 &&
          slope >= Math.abs(plane[at]! - plane[at - stride]!) &&
          slope > Math.abs(plane[at + 2 * stride]! - plane[at + stride]!)
        ) {
          found.push({ at, stride, slope });
        }
      }
    }
  found.sort((a, b) => b.slope - a.slope);
  const most = Math.max(20, Math.round(width * height * EDGES));
  return found.slice(0, most).flatMap(({ at, stride }) => {
    let low = Infinity;
    let high = -Infinity;
    for (let k = -reach; k <= reach; k++) {
      low = Math.min(low, plane[at + k * stride]!);
      high = Math.max(high, plane[at + k * stride]!);
    }
    return high - low < CLIMBS ? [] : [{ at, stride, climb: high - low }];
  });
}

/**
 * How many pixels edges take to rise, all together: what they climb, where they are found, over how
 * steep they are at their steepest. Ringing doesn't count as climbing. NaN where there are no edges.
 * @param reach pixels on both sides in which the steepest place is looked for
 */
export function edgeWidth(
  plane: Float32Array,
  places: readonly EdgePlace[],
  reach: number,
): number {
  let climbs = 0;
  let slopes = 0;
  for (const { at, stride, climb } of places) {
    let steepest = 1e-3;
    for (let k = -reach; k < reach; k++) {
      const slope = Math.abs(plane[at + (k + 1) * stride]! - plane[at + k * stride]!);
      if (slope > steepest) steepest = slope;
    }
    climbs += climb;
    slopes += steepest;
  }
  return climbs / slopes;
}
