import { lengthOf } from '../raster/portable-math';

// Fits Bézier curves to points by least squares, and where one is not enough, two (Schneider 1990, "An algorithm for
// automatically fitting digitized curves").

/** A curve that is off by less than so many times that is tried again with better parameters. */
const WORTH_AGAIN = 5;
const TIMES = 5;
/** Points on either side that tell a direction at an end; and, where a curve is parted, where it runs as well. */
const ARM = 4;
const WIDE = 8;

type Point = readonly [x: number, y: number];

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
const plus = (a: Point, b: Point, times = 1): Point => [a[0] + times * b[0], a[1] + times * b[1]];
const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1];
const unit = (a: Point): Point => {
  const length = lengthOf(...a);
  return length > 0 ? [a[0] / length, a[1] / length] : [1, 0];
};

/** Four points of a cubic Bézier curve. */
type Cubic = readonly [Point, Point, Point, Point];

/**
 * Curves through points, smooth where one follows another.
 * @param points x, y of each
 * @param off as far as a curve may be off the points, in pixels
 * @param round whether the last point is the first one, and the line smooth there
 * @returns two handles and a point for each curve after the first point
 */
export function curvesThrough(points: readonly Point[], round: boolean, off: number): number[] {
  const last = points.length - 1;
  const middle: Point | null = round
    ? unit(minus(points[Math.min(ARM, last)]!, points[Math.max(0, last - ARM)]!))
    : null;
  const begin = middle ?? endWay(points, 0, 1);
  const end: Point = middle ? [-middle[0], -middle[1]] : endWay(points, last, -1);
  const found: number[] = [];
  fit([...points], 0, last, begin, end, off, found);
  return found;
}

/** Direction in which a line leaves one of its ends. */
function endWay(points: readonly Point[], at: number, way: 1 | -1): Point {
  const far = Math.min(points.length - 1, Math.max(0, at + way * ARM));
  return unit(minus(points[far]!, points[at]!));
}

function fit(
  points: Point[],
  first: number,
  last: number,
  begin: Point,
  end: Point,
  off: number,
  found: number[],
): void {
  const [from, to] = [points[first]!, points[last]!];
  if (isStraight(points, first, last, off) || last - first < 2) {
    const third = minus(to, from);
    found.push(...plus(from, third, 1 / 3), ...plus(from, third, 2 / 3), ...to);
    return;
  }
  let parameters = chordLengths(points, first, last);
  let worst = { index: first, off: Infinity };
  for (let time = 0; time < TIMES; time++) {
    const cubic = fitted(points, first, parameters, begin, end);
    worst = worstOf(points, first, parameters, cubic);
    if (worst.off <= off) {
      found.push(...cubic[1], ...cubic[2], ...cubic[3]);
      return;
    }
    if (worst.off > WORTH_AGAIN * off) break;
    parameters = parameters.map((t, i) => nearer(cubic, points[first + i]!, t));
  }
  const split = Math.min(last - 1, Math.max(first + 1, worst.index));
  const way = settled(points, split, Math.min(WIDE, split - first, last - split), off);
  fit(points, first, split, begin, [-way[0], -way[1]], off, found);
  fit(points, split, last, way, end, off, found);
}

/**
 * Puts a point where those about it lie on the mean, along a parabola (Savitzky & Golay 1964), unless that is so far off that the
 * line turns there. @returns the way there
 */
function settled(points: Point[], index: number, arm: number, off: number): Point {
  const near = Math.min(ARM, arm);
  const turned = unit(minus(points[index + near]!, points[index - near]!));
  if (arm < 3) return turned;
  let [k2, k4] = [0, 0];
  for (let k = -arm; k <= arm; k++) {
    k2 += k * k;
    k4 += k ** 4;
  }
  const n = 2 * arm + 1;
  const mean = [0, 0];
  const slope = [0, 0];
  for (let k = -arm; k <= arm; k++) {
    const weight = (k4 - k * k * k2) / (n * k4 - k2 * k2);
    for (const c of [0, 1] as const) {
      mean[c]! += weight * points[index + k]![c];
      slope[c]! += k * points[index + k]![c];
    }
  }
  const moved: Point = [mean[0]!, mean[1]!];
  if (lengthOf(...minus(moved, points[index]!)) > TURNS * off) return turned;
  points[index] = moved;
  return unit([slope[0]!, slope[1]!]);
}

/** Unrest moves a point by no more than so many times as a curve may be off it. */
const TURNS = 1.5;

/** A line's points may be so many times as far off it as a curve's, as long as they do not bow by so many pixels. */
const LOOSER = 2.5;
const BOWED = 0.06;

/** Whether points lie on the line between their ends, but for unrest. */
function isStraight(points: readonly Point[], first: number, last: number, off: number): boolean {
  const from = points[first]!;
  const along = minus(points[last]!, from);
  const length = lengthOf(...along);
  const way = unit(along);
  let [bow, weights] = [0, 0];
  for (let i = first + 1; i < last; i++) {
    const apart = minus(points[i]!, from);
    const across = apart[0] * way[1] - apart[1] * way[0];
    if (Math.abs(across) > LOOSER * off) return false;
    const share = length > 0 ? dot(apart, way) / length : 0;
    // As an arc between the ends would bow.
    const arc = 4 * share * (1 - share);
    bow += across * arc;
    weights += arc * arc;
  }
  return weights === 0 || Math.abs(bow) <= Math.min(off, BOWED) * weights;
}

function chordLengths(points: readonly Point[], first: number, last: number): number[] {
  const lengths = [0];
  for (let i = first + 1; i <= last; i++)
    lengths.push(lengths.at(-1)! + lengthOf(...minus(points[i]!, points[i - 1]!)));
  const all = lengths.at(-1)! || 1;
  return lengths.map((one) => one / all);
}

/** The curve with the given directions at its ends that lies nearest to the points. */
function fitted(
  points: readonly Point[],
  first: number,
  parameters: readonly number[],
  begin: Point,
  end: Point,
): Cubic {
  const from = points[first]!;
  const to = points[first + parameters.length - 1]!;
  let [aa, ab, bb, ax, bx] = [0, 0, 0, 0, 0];
  parameters.forEach((t, i) => {
    const s = 1 - t;
    const [w1, w2] = [3 * s * s * t, 3 * s * t * t];
    const a: Point = [begin[0] * w1, begin[1] * w1];
    const b: Point = [end[0] * w2, end[1] * w2];
    const [nearFrom, nearTo] = [s * s * s + w1, t * t * t + w2];
    const left = minus(points[first + i]!, [
      from[0] * nearFrom + to[0] * nearTo,
      from[1] * nearFrom + to[1] * nearTo,
    ]);
    aa += dot(a, a);
    ab += dot(a, b);
    bb += dot(b, b);
    ax += dot(a, left);
    bx += dot(b, left);
  });
  const determinant = aa * bb - ab * ab;
  const length = lengthOf(...minus(to, from));
  let [one, two] =
    Math.abs(determinant) > 1e-9
      ? [(ax * bb - bx * ab) / determinant, (aa * bx - ab * ax) / determinant]
      : [0, 0];
  // Handles that point backwards, or run far beyond the other end, come of too few points.
  if (one < 1e-3 * length || two < 1e-3 * length || one > 3 * length || two > 3 * length) {
    one = two = length / 3;
  }
  return [from, plus(from, begin, one), plus(to, end, two), to];
}

function at([p0, p1, p2, p3]: Cubic, t: number): Point {
  const s = 1 - t;
  const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [
    w0 * p0[0] + w1 * p1[0] + w2 * p2[0] + w3 * p3[0],
    w0 * p0[1] + w1 * p1[1] + w2 * p2[1] + w3 * p3[1],
  ];
}

function worstOf(
  points: readonly Point[],
  first: number,
  parameters: readonly number[],
  cubic: Cubic,
): { index: number; off: number } {
  let worst = { index: first, off: 0 };
  parameters.forEach((t, i) => {
    const off = lengthOf(...minus(at(cubic, t), points[first + i]!));
    if (off > worst.off) worst = { index: first + i, off };
  });
  return worst;
}

/** A parameter at which the curve is nearer to a point: one step of Newton's. */
function nearer(cubic: Cubic, point: Point, t: number): number {
  const [p0, p1, p2, p3] = cubic;
  const s = 1 - t;
  const off = minus(at(cubic, t), point);
  const [d0, d1, d2] = [minus(p1, p0), minus(p2, p1), minus(p3, p2)];
  const once = plus(plus([3 * s * s * d0[0], 3 * s * s * d0[1]], d1, 6 * s * t), d2, 3 * t * t);
  const twice = plus([6 * s * (d1[0] - d0[0]), 6 * s * (d1[1] - d0[1])], minus(d2, d1), 6 * t);
  const slope = dot(once, once) + dot(off, twice);
  return slope === 0 ? t : Math.min(1, Math.max(0, t - dot(off, once) / slope));
}
