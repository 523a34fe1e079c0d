import type { Size } from '../raster/region';
import type { Field } from './field';

/**
 * A drawing as areas of colour with drawn edges between them. Every edge is drawn once, between the area on its left and
 * the one on its right, so that nothing shows between neighbours.
 */
export interface Tracing {
  /** of the picture that was traced, in its pixels, which all coordinates are in */
  size: Size;
  /** colours a fill has: R, G, B, or with alpha R, G, B (premultiplied), A */
  channels: 3 | 4;
  fills: Fill[];
  edges: Edge[];
}

/** What an area is filled with. */
export interface Fill {
  /** 0–1, of each channel; of an area that changes over its extent the mean */
  colour: number[];
  /** how it changes over its extent; none where it is flat */
  field?: Field;
}

/** Outside of the picture. */
export const OUTSIDE = -1;

/** One edge between two areas. */
export interface Edge {
  /** fills on either side, seen along the edge with y downward, or OUTSIDE */
  left: number;
  right: number;
  /** its first point, then two handles and a point for each cubic Bézier curve: x, y */
  curve: number[];
}
