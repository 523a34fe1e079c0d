import { lengthOf } from '../raster/portable-math';
import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { RGB, RGBA } from '../raster/form';
import { unpremultiply } from '../raster/alpha';
import type { Region } from '../raster/region';
import { fillAt } from './fills';
import { OUTSIDE, type Edge, type Fill, type Tracing } from './tracing';

// A picture of flat areas changes along a row only where an edge passes: by the difference of what lies on either side,
// times what of the pixel the edge leaves behind it. So edges are added up, pixel by pixel, and summed along the rows
// (exact coverage by signed areas, as fonts are drawn since Carpenter's A-buffer, 1984); neighbours share their edge, so
// that nothing shows between them. Coverages and colours are whole multiples of small fractions, so that all sums are
// exact and a pixel is the same however the picture is cut.

/** Coverage and colours are told to so many parts of one. */
const PARTS = 2 ** 20;

/** From the traced picture's places to the target's: x' = xx x + xy y + x0, y' = yx x + yy y + y0. */
export interface Placing {
  xx: number;
  xy: number;
  x0: number;
  yx: number;
  yy: number;
  y0: number;
}

/** Straight pieces of all edges on the target's grid, in the order of their edges. */
export interface Pieces {
  /** x, y of begin and end of each */
  places: Float64Array;
  left: Int32Array;
  right: Int32Array;
  /** of each area that changes over its extent */
  about: ReadonlyMap<number, About>;
}

/** The pieces about one area, and what holds them. */
interface About {
  pieces: number[];
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Target pixels that a straight piece may be off its curve by. */
const OFF = 0.03;

/** All edges as straight pieces on the target's grid. */
export function piecesOf({ edges, fills }: Tracing, placing: Placing): Pieces {
  const places: number[] = [];
  const left: number[] = [];
  const right: number[] = [];
  const about = new Map<number, About>();
  const mirrored = placing.xx * placing.yy - placing.xy * placing.yx < 0;
  for (const edge of edges) {
    const sides = mirrored ? [edge.right, edge.left] : [edge.left, edge.right];
    flatten(edge, placing, (x0, y0, x1, y1) => {
      if (y0 === y1) return;
      for (const fill of sides)
        if (fills[fill]?.field) addTo(about, fill, left.length, x0, y0, x1, y1);
      places.push(x0, y0, x1, y1);
      left.push(sides[0]!);
      right.push(sides[1]!);
    });
  }
  return {
    places: Float64Array.from(places),
    left: Int32Array.from(left),
    right: Int32Array.from(right),
    about: new Map([...about].sort((one, other) => one[0] - other[0])),
  };
}

function addTo(
  about: Map<number, About>,
  fill: number,
  piece: number,
  ...[x0, y0, x1, y1]: [number, number, number, number]
): void {
  let one = about.get(fill);
  if (!one) {
    one = { pieces: [], left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
    about.set(fill, one);
  }
  one.pieces.push(piece);
  one.left = Math.min(one.left, x0, x1);
  one.right = Math.max(one.right, x0, x1);
  one.top = Math.min(one.top, y0, y1);
  one.bottom = Math.max(one.bottom, y0, y1);
}

function flatten(
  { curve }: Edge,
  { xx, xy, x0, yx, yy, y0 }: Placing,
  piece: (x0: number, y0: number, x1: number, y1: number) => void,
): void {
  const x = (i: number) => xx * curve[i]! + xy * curve[i + 1]! + x0;
  const y = (i: number) => yx * curve[i]! + yy * curve[i + 1]! + y0;
  for (let i = 0; i + 7 < curve.length; i += 6) {
    const [ax, ay, bx, by] = [x(i), y(i), x(i + 2), y(i + 2)];
    const [cx, cy, dx, dy] = [x(i + 4), y(i + 4), x(i + 6), y(i + 6)];
    // How far the curve is from its chord is bounded by its second differences.
    const bend = Math.max(
      lengthOf(ax - 2 * bx + cx, ay - 2 * by + cy),
      lengthOf(bx - 2 * cx + dx, by - 2 * cy + dy),
    );
    const count = Math.min(4096, Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / OFF))));
    let [fromX, fromY] = [ax, ay];
    for (let k = 1; k <= count; k++) {
      const t = k / count;
      const s = 1 - t;
      const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      const toX = k === count ? dx : w0 * ax + w1 * bx + w2 * cx + w3 * dx;
      const toY = k === count ? dy : w0 * ay + w1 * by + w2 * cy + w3 * dy;
      piece(fromX, fromY, toX, toY);
      [fromX, fromY] = [toX, toY];
    }
  }
}

/** Draws a region of the target. */
export function draw(tracing: Tracing, pieces: Pieces, placing: Placing, region: Region): Raster {
  const { channels, fills } = tracing;
  const { width, height } = region;
  const sums = Array.from({ length: channels }, () => new Float64Array(width * height));
  // Areas that change over their extent are added afterwards.
  const fixed = fills.map(({ colour, field }) =>
    colour.map((value) => (field ? 0 : Math.round(value * PARTS))),
  );
  const none = new Array<number>(channels).fill(0);
  const colourOf = (fill: number) => (fill === OUTSIDE ? none : fixed[fill]!);
  for (let i = 0; i < pieces.left.length; i++)
    passing(pieces, i, region, (at, share, before, after) => {
      const [one, other] = [colourOf(before), colourOf(after)];
      for (let c = 0; c < channels; c++) sums[c]![at]! += share * (other[c]! - one[c]!);
    });
  const raster = emptyRaster(width, height, channels === 4 ? RGBA : RGB);
  sums.forEach((sum, c) => sumRows(sum, raster.planes[c]!, width, height));
  for (const [fill, about] of pieces.about) {
    const part = clippedTo(about, region);
    if (!part) continue;
    const covers = new Float64Array(part.width * part.height);
    for (const i of about.pieces)
      passing(pieces, i, part, (at, share, before, after) => {
        if (before === fill) covers[at]! -= share;
        if (after === fill) covers[at]! += share;
      });
    addChanging(covers, fills[fill]!, part, { region, raster }, placing);
  }
  return channels === 4 ? unpremultiply(raster) : raster;
}

/** The part of a region that holds an area; null where it lies beside. */
function clippedTo({ left, top, right, bottom }: About, region: Region): Region | null {
  const x = Math.max(region.x, Math.floor(left));
  const y = Math.max(region.y, Math.floor(top));
  const width = Math.min(region.x + region.width, Math.ceil(right)) - x;
  const height = Math.min(region.y + region.height, Math.ceil(bottom)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** Tells of a piece's crossings over a region: where, how much, and what lies before and after it along the row. */
function passing(
  { places, left, right }: Pieces,
  i: number,
  region: Region,
  tell: (at: number, share: number, before: number, after: number) => void,
): void {
  const [ax, ay] = [places[4 * i]!, places[4 * i + 1]!];
  const [bx, by] = [places[4 * i + 2]!, places[4 * i + 3]!];
  if (Math.max(ay, by) <= region.y || Math.min(ay, by) >= region.y + region.height) return;
  if (Math.min(ax, bx) >= region.x + region.width) return;
  // Downward, what lies to the right on the page is on the edge's left.
  const down = by > ay;
  const [before, after] = down ? [right[i]!, left[i]!] : [left[i]!, right[i]!];
  crossings(down ? [ax, ay, bx, by] : [bx, by, ax, ay], region, (at, share) =>
    tell(at, share, before, after),
  );
}

/**
 * Tells of every pixel that a piece passes what of the rest of its row lies behind the piece, in whole parts.
 * What passes to the left of the region counts at its first pixel.
 * @param piece downward
 */
function crossings(
  [ax, ay, bx, by]: readonly [number, number, number, number],
  { x, y, width, height }: Region,
  tell: (at: number, share: number) => void,
): void {
  const slope = (bx - ax) / (by - ay);
  const first = Math.max(y, Math.floor(ay));
  const last = Math.min(y + height, Math.ceil(by));
  for (let row = first; row < last; row++) {
    const top = Math.max(ay, row);
    const bottom = Math.min(by, row + 1);
    if (bottom <= top) continue;
    const x0 = ax + (top - ay) * slope;
    const x1 = ax + (bottom - ay) * slope;
    const [from, to] = x0 < x1 ? [x0, x1] : [x1, x0];
    const share = PARTS * (bottom - top);
    const line = (row - y) * width - x;
    const end = Math.floor(to) + 1;
    let told = 0;
    for (let column = Math.max(x, Math.floor(from)); column < x + width; column++) {
      const covered = Math.round(column < end ? share * behind(from, to, column + 1) : share);
      if (covered !== told) tell(line + column, covered - told);
      told = covered;
      if (column >= end) break;
    }
  }
}

/** Of the pixel that ends at `edge`: what of it lies right of a piece that runs from `from` to `to` through its row, of 1. */
function behind(from: number, to: number, edge: number): number {
  if (edge <= from) return 0;
  const column = edge - 1;
  const span = to - from;
  if (span < 1e-12) return Math.min(1, Math.max(0, edge - Math.max(from, column)));
  // The mean over the piece's height of what lies between it and the pixel's right side, less what lies left of the pixel.
  const area = (x: number) => {
    const near = Math.min(to, x);
    return near <= from ? 0 : ((near - from) * (x - (from + near) / 2)) / span;
  };
  return area(edge) - area(column);
}

function sumRows(sums: Float64Array, plane: Float32Array, width: number, height: number): void {
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < width; x++) {
      sum += sums[y * width + x]!;
      plane[y * width + x] = sum / PARTS / PARTS;
    }
  }
}

/** Adds an area that changes over its extent, where it covers. @param covers steps of its coverage over `part` */
function addChanging(
  covers: Float64Array,
  fill: Fill,
  part: Region,
  { region, raster }: Window,
  { xx, xy, x0, yx, yy, y0 }: Placing,
): void {
  const { planes } = raster;
  const determinant = xx * yy - xy * yx;
  for (let y = 0; y < part.height; y++) {
    let sum = 0;
    const row = (part.y + y - region.y) * region.width + part.x - region.x;
    for (let x = 0; x < part.width; x++) {
      sum += covers[y * part.width + x]!;
      if (sum === 0) continue;
      const u = part.x + x + 0.5 - x0;
      const v = part.y + y + 0.5 - y0;
      const atX = (yy * u - xy * v) / determinant;
      const atY = (xx * v - yx * u) / determinant;
      const share = sum / PARTS;
      for (let c = 0; c < planes.length; c++)
        planes[c]![row + x]! += share * fillAt(fill, c, atX, atY);
    }
  }
}
