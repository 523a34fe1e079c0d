import { LRUCache } from 'lru-cache';
import { rotation, type Rect, type Turn } from '../frame/framing';
import type { Raster } from '../raster/raster';
import type { Region, Size } from '../raster/region';
import { draw, piecesOf, type Pieces, type Placing } from './draw';
import type { Tracing } from './tracing';

/** Pictures of more pixels than this are not traced. */
export const MOST_TRACED = 3e6;

/** Microseconds that tracing takes a pixel, on the machine of reference. */
export const TRACING_COST = 3;

/** Where a part of a turned and straightened frame comes to lie on its target. */
export interface TracedPart {
  source: Rect;
  turn: Turn;
  /** clockwise, in degrees */
  straighten: number;
  width: number;
  height: number;
}

/** From the traced picture's own places to the target's. @param from its size before it is turned */
export function placingOf(
  { source, turn, straighten, width, height }: TracedPart,
  from: Size,
): Placing {
  const frame = turn % 180 === 0 ? from : { width: from.height, height: from.width };
  // A quarter turn moves a place by whole numbers of cosines and sines.
  const [cos, sin] = (
    [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ] as const
  )[turn / 90]!;
  const turned = {
    ...{ xx: cos, xy: -sin, yx: sin, yy: cos },
    x0: frame.width / 2 - (cos * from.width) / 2 + (sin * from.height) / 2,
    y0: frame.height / 2 - (sin * from.width) / 2 - (cos * from.height) / 2,
  };
  const { cos: c, sin: s } = straighten === 0 ? { cos: 1, sin: 0 } : rotation(straighten);
  const middle = { x: frame.width / 2, y: frame.height / 2 };
  const straight = {
    ...{ xx: c, xy: -s, yx: s, yy: c },
    x0: middle.x - c * middle.x + s * middle.y,
    y0: middle.y - s * middle.x - c * middle.y,
  };
  const across = width / source.width;
  const down = height / source.height;
  const scaled = {
    ...{ xx: across, xy: 0, yx: 0, yy: down },
    x0: -source.x * across,
    y0: -source.y * down,
  };
  return after(scaled, after(straight, turned));
}

/** One placing after another. */
const after = (b: Placing, a: Placing): Placing => ({
  xx: b.xx * a.xx + b.xy * a.yx,
  xy: b.xx * a.xy + b.xy * a.yy,
  x0: b.xx * a.x0 + b.xy * a.y0 + b.x0,
  yx: b.yx * a.xx + b.yy * a.yx,
  yy: b.yx * a.xy + b.yy * a.yy,
  y0: b.yx * a.x0 + b.yy * a.y0 + b.y0,
});

/** The pieces that were drawn last of each tracing: a picture is drawn tile by tile. */
const pieces = new WeakMap<Tracing, { placing: string; pieces: Pieces }>();

/** Draws a region of what a part of a traced picture comes to. */
export function drawTraced(tracing: Tracing, part: TracedPart, region: Region): Raster {
  const placing = placingOf(part, tracing.size);
  const name = Object.values(placing).join();
  let known = pieces.get(tracing);
  if (known?.placing !== name) {
    known = { placing: name, pieces: piecesOf(tracing, placing) };
    pieces.set(tracing, known);
  }
  return draw(tracing, known.pieces, placing, region);
}

/** Tracings that stay: of the trials that are looked at in turn. */
const kept = new LRUCache<string, Promise<Tracing>>({ max: 3 });

/** A node's tracing, made once. @param hash of the node that is traced */
export async function tracingOf(hash: string, make: () => Promise<Tracing>): Promise<Tracing> {
  const known = kept.get(hash);
  // Whoever began it may have been told to stop.
  if (known) return known.catch(() => tracingOf(hash, make));
  const made = make();
  kept.set(hash, made);
  try {
    return await made;
  } catch (error) {
    if (kept.peek(hash) === made) kept.delete(hash);
    throw error;
  }
}
