import { LUMA } from '../raster/colour';
import { fieldAt, type Field } from './field';
import { placingOf, type TracedPart } from './traced';
import { OUTSIDE, type Edge, type Tracing } from './tracing';

/** Red, green and blue, 0–1. */
export type Colour = readonly [number, number, number];

/** What an area is filled with: one colour, or colours along a line. */
export type Paint =
  { colour: Colour } | { from: Point; to: Point; stops: readonly { at: number; colour: Colour }[] };
type Point = readonly [x: number, y: number];

/** An area as programs for shapes know them, in pixels of the print. */
export interface Shape {
  /** closed, each side of them once: where they overlap twice, nothing is filled */
  curves: Curve[];
  paint: Paint;
  /** how much it covers, 0–1 */
  alpha: number;
}

/** Areas that let so much through are none. */
const CLEAR = 0.02;
/** Stops of what stands for an area that changes over its extent. */
const STOPS = 5;

/**
 * The areas of a tracing where they lie on their print, the largest first; what changes over its extent becomes a gradient
 * along which it changes most.
 */
export function shapesOf(tracing: Tracing, part: TracedPart): Shape[] {
  const { xx, xy, x0, yx, yy, y0 } = placingOf(part, tracing.size);
  const place = (x: number, y: number): Point => [xx * x + xy * y + x0, yx * x + yy * y + y0];
  return loopsOf(tracing)
    .map((list, fill) => ({ list, fill, extent: extentOf(list) }))
    .filter(({ list, fill }) => list.length > 0 && alphaOf(tracing, fill) > CLEAR)
    .sort((a, b) => b.extent - a.extent || a.fill - b.fill)
    .map(({ list, fill }) => {
      const { colour, field } = tracing.fills[fill]!;
      const covers = alphaOf(tracing, fill);
      return {
        curves: list.map((curve) => placed(curve, place)),
        paint: field ? gradientOf(field, covers, place) : { colour: opaque(colour, covers) },
        alpha: covers < 1 - CLEAR ? covers : 1,
      };
    });
}

function placed(curve: Curve, place: (x: number, y: number) => Point): Curve {
  const result: Curve = [];
  for (let i = 0; i < curve.length; i += 2) result.push(...place(curve[i]!, curve[i + 1]!));
  return result;
}

const alphaOf = ({ channels, fills }: Tracing, fill: number): number =>
  channels === 4 ? Math.min(1, Math.max(0, fills[fill]!.colour[3]!)) : 1;

/** A premultiplied colour as it is where it covers. */
function opaque(colour: ArrayLike<number>, alpha: number): Colour {
  const at = (c: number) => Math.min(1, Math.max(0, colour[c]! / alpha));
  return [at(0), at(1), at(2)];
}

/** One curve: two handles and a point after the first point, x and y of each. */
export type Curve = number[];

/** Of each fill, the closed curves about it. */
function loopsOf({ fills, edges }: Tracing): Curve[][] {
  const own: Curve[][] = fills.map(() => []);
  const ends = fills.map(() => new Map<string, Curve[]>());
  const name = (x: number, y: number) => `${x} ${y}`;
  const add = (fill: number, curve: Curve) => {
    if (fill === OUTSIDE || curve.length < 8) return;
    const begin = name(curve[0]!, curve[1]!);
    if (begin === name(curve.at(-2)!, curve.at(-1)!)) own[fill]!.push(curve);
    else ends[fill]!.set(begin, [...(ends[fill]!.get(begin) ?? []), curve]);
  };
  for (const edge of edges) {
    // All about one area go the same way round it.
    if (edge.left === edge.right) continue;
    add(edge.right, edge.curve);
    add(edge.left, reversed(edge));
  }
  ends.forEach((open, fill) => {
    for (const [begin, list] of open)
      for (let curve = list.pop(); curve; curve = list.pop()) {
        const loop = [...curve];
        for (;;) {
          const next = open.get(name(loop.at(-2)!, loop.at(-1)!))?.pop();
          if (!next || name(loop.at(-2)!, loop.at(-1)!) === begin) {
            if (next) open.get(begin)!.push(next);
            break;
          }
          for (let i = 2; i < next.length; i++) loop.push(next[i]!);
        }
        own[fill]!.push(loop);
      }
  });
  return own;
}

function reversed({ curve }: Edge): Curve {
  const back: Curve = [];
  for (let i = curve.length - 2; i >= 0; i -= 2) back.push(curve[i]!, curve[i + 1]!);
  return back;
}

/** The area of what holds some curves. */
function extentOf(list: readonly Curve[]): number {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const curve of list)
    for (let i = 0; i < curve.length; i += 2) {
      left = Math.min(left, curve[i]!);
      right = Math.max(right, curve[i]!);
      top = Math.min(top, curve[i + 1]!);
      bottom = Math.max(bottom, curve[i + 1]!);
    }
  return (right - left) * (bottom - top);
}

/** A part of a curve: a straight line to a point, or a curve to it by two handles. */
export type Piece = [x: number, y: number] | [number, number, number, number, number, number];

/** A curve after its first point, piece by piece. */
export function piecesOf(curve: Curve): Piece[] {
  const pieces: Piece[] = [];
  for (let i = 2; i + 5 < curve.length; i += 6) {
    const [a, b, c, d, x, y] = curve.slice(i, i + 6) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    pieces.push(isStraight(curve, i) ? [x, y] : [a, b, c, d, x, y]);
  }
  return pieces;
}

/** Whether both handles lie on thirds of the line between the ends. */
function isStraight(curve: Curve, i: number): boolean {
  const thirds = [0, 1].map((c) => (curve[i + 4 + c]! - curve[i - 2 + c]!) / 3);
  return [0, 1].every(
    (c) =>
      Math.abs(curve[i + c]! - curve[i - 2 + c]! - thirds[c]!) < 1e-6 &&
      Math.abs(curve[i + 2 + c]! - curve[i - 2 + c]! - 2 * thirds[c]!) < 1e-6,
  );
}

/** A gradient in the direction in which a field's luminance changes most. */
function gradientOf(field: Field, alpha: number, place: (x: number, y: number) => Point): Paint {
  const { x, y, step, across, down } = field;
  const right = x + step * (across - 1);
  const bottom = y + step * (down - 1);
  const lightness = (u: number, v: number) =>
    [LUMA.red, LUMA.green, LUMA.blue].reduce(
      (sum, share, c) => sum + share * fieldAt(field, c, u, v),
      0,
    );
  const middle = { x: (x + right) / 2, y: (y + bottom) / 2 };
  const slopeX = (lightness(right, middle.y) - lightness(x, middle.y)) / (right - x);
  const slopeY = (lightness(middle.x, bottom) - lightness(middle.x, y)) / (bottom - y);
  const slope = Math.sqrt(slopeX * slopeX + slopeY * slopeY);
  const [wayX, wayY] = slope > 0 ? [slopeX / slope, slopeY / slope] : [1, 0];
  const reach = (Math.abs(wayX) * (right - x) + Math.abs(wayY) * (bottom - y)) / 2;
  const at = (share: number) =>
    [middle.x + share * reach * wayX, middle.y + share * reach * wayY] as const;
  const stops = Array.from({ length: STOPS }, (_, k) => {
    const share = k / (STOPS - 1);
    const there = at(2 * share - 1);
    const colours = [0, 1, 2].map((c) => fieldAt(field, c, ...there));
    return { at: share, colour: opaque(colours, alpha) };
  });
  return { from: place(...at(-1)), to: place(...at(1)), stops };
}
