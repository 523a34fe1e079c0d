import { angleOf, lengthOf } from '../raster/portable-math';

/** Points on either side of one that tell whether there is a corner: from how far, to how far at most and at least. */
const ARM = { from: 2, most: 8, least: 4 };
/** Lines that turn by less are none, in degrees. */
const TURN = 28;
/** Lines through the points of an arm are off them by no more, in pixels. */
const STRAIGHT = 0.35;

/** A corner of a line of points: after which point it lies, and where. */
export interface Corner {
  index: number;
  x: number;
  y: number;
}

/**
 * How far from where its arms meet a line may pass, in pixels: as far as blur rounds a corner, which is like a curve of so
 * many pixels' radius.
 * @param cosine of the angle that it turns by
 */
const rounded = (cosine: number): number =>
  Math.min(2.5, 0.35 + RADIUS * (Math.sqrt(2 / Math.max(1e-6, 1 + cosine)) - 1));
const RADIUS = 3;

/**
 * Finds the corners of a line of points: where the lines through the points before and after meet near the line itself.
 * @param points x, y of each, about a pixel apart
 */
export function cornersOf(points: Float64Array, closed: boolean): Corner[] {
  const count = points.length / 2;
  const found: (Corner & { turn: number })[] = [];
  for (let i = 0; i < count; i++) {
    const corner = cornerAt(points, i, closed);
    if (corner) found.push(corner);
  }
  // Of those that lie together the sharpest is meant.
  const near = (a: number, b: number) => {
    const apart = Math.abs(a - b);
    return (closed ? Math.min(apart, count - apart) : apart) <= ARM.least;
  };
  return found.filter((one) =>
    found.every(
      (other) =>
        other === one ||
        !near(other.index, one.index) ||
        other.turn < one.turn ||
        (other.turn === one.turn && other.index > one.index),
    ),
  );
}

function cornerAt(
  points: Float64Array,
  i: number,
  closed: boolean,
): (Corner & { turn: number }) | null {
  const count = points.length / 2;
  const most = closed
    ? Math.min(ARM.most, Math.floor(count / 3))
    : Math.min(ARM.most, i, count - 1 - i);
  for (let arm = most; arm >= ARM.least; arm--) {
    const before = lineThrough(points, i - arm, i - ARM.from);
    const after = lineThrough(points, i + ARM.from, i + arm);
    if (before.off > STRAIGHT || after.off > STRAIGHT) continue;
    const cross = before.wayX * after.wayY - before.wayY * after.wayX;
    const along = before.wayX * after.wayX + before.wayY * after.wayY;
    // What the arms' own bending would come to from one to the other is a curve's, not a corner's.
    const bend = ((before.bend + after.bend) / 2) * (arm + ARM.from);
    const turned = angleOf(along, cross);
    const turn = (Math.sign(turned) * (turned - bend) * 180) / Math.PI;
    if (turn < TURN || Math.abs(cross) < 0.2) return null;
    const apartX = after.x - before.x;
    const apartY = after.y - before.y;
    const run = (apartX * after.wayY - apartY * after.wayX) / cross;
    const x = before.x + run * before.wayX;
    const y = before.y + run * before.wayY;
    const off = lengthOf(x - points[2 * i]!, y - points[2 * i + 1]!);
    if (off > rounded(along)) return null;
    return { index: i, x, y, turn };
  }
  return null;
}

/**
 * The line through some points: a place on it, its direction, how far points are off it (root mean square), and how
 * much they bend, in radians a pixel.
 */
function lineThrough(points: Float64Array, from: number, to: number) {
  const count = points.length / 2;
  const n = to - from + 1;
  let [x, y] = [0, 0];
  const at = (k: number) => 2 * (((k % count) + count) % count);
  for (let k = from; k <= to; k++) {
    x += points[at(k)]! / n;
    y += points[at(k) + 1]! / n;
  }
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = from; k <= to; k++) {
    const [u, v] = [points[at(k)]! - x, points[at(k) + 1]! - y];
    xx += u * u;
    xy += u * v;
    yy += v * v;
  }
  // The direction of greatest spread, and the spread across it.
  const apart = (xx - yy) / 2;
  const spreads = lengthOf(apart, xy);
  const [longX, longY] = apart > 0 ? [apart + spreads, xy] : [xy, spreads - apart];
  const length = lengthOf(longX, longY) || 1;
  let [wayX, wayY] = [longX / length, longY / length];
  const aheadX = points[at(to)]! - points[at(from)]!;
  const aheadY = points[at(to) + 1]! - points[at(from) + 1]!;
  if (aheadX * wayX + aheadY * wayY < 0) [wayX, wayY] = [-wayX, -wayY];
  const across = Math.max(0, xx * wayY * wayY - 2 * xy * wayX * wayY + yy * wayX * wayX);
  const spread = (xx + yy - across) / n;
  // Half the second derivative: how what lies across goes with the square of what lies along.
  let [both, fourth] = [0, 0];
  for (let k = from; k <= to; k++) {
    const [u, v] = [points[at(k)]! - x, points[at(k) + 1]! - y];
    const ahead = u * wayX + v * wayY;
    const square = ahead * ahead - spread;
    both += square * (v * wayX - u * wayY);
    fourth += square * square;
  }
  const bend = fourth > 0 ? (2 * both) / fourth : 0;
  return { x, y, wayX, wayY, off: Math.sqrt(across / n), bend };
}
