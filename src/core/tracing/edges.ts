import { cornersOf, type Corner } from './corners';
import { curvesThrough } from './curves';
import type { Line } from './points';
import type { Edge } from './tracing';
import { wavinessOf } from './waviness';

/**
 * Curves may be off the points by so many times what these are off a smooth line, since that is the network's or the
 * file's own unrest; at least and at most by so many pixels.
 */
const WAVES = 1.4;
const TIGHT = 0.08;
const LOOSE = 0.45;

/** Points on either side of a corner that blur has drawn inward. */
const ROUNDED = 2;

/** Lines of fewer points are left as they are. */
const LEAST = 3;

/** Draws a line of points as curves, with its corners kept. */
export function edgeOf({ left, right, points, closed }: Line): Edge {
  const all: Point[] = [];
  for (let i = 0; i < points.length; i += 2) all.push([points[i]!, points[i + 1]!]);
  if (all.length < LEAST) {
    const through = closed && all.length > 0 ? [...all, all[0]!] : all;
    return { left, right, curve: straight(through) };
  }
  const corners = cornersOf(points, closed);
  if (!closed) {
    const { kept, stops } = cornered(all, corners, 1);
    return {
      left,
      right,
      curve: between(kept, [...new Set([0, ...stops, kept.length - 1])], false),
    };
  }
  if (corners.length === 0) {
    const round = [...all, all[0]!];
    return { left, right, curve: between(round, [0, round.length - 1], true) };
  }
  // Begun at a corner, so that it ends in one.
  const start = corners[0]!.index;
  const count = all.length;
  const turned = [...all.slice(start), ...all.slice(0, start + 1)];
  const there = corners.map((one) => ({ ...one, index: (one.index - start + count) % count }));
  const { kept, stops } = cornered(turned, [...there, { ...there[0]!, index: count }], 0);
  return { left, right, curve: between(kept, stops, false) };
}

type Point = readonly [x: number, y: number];

/**
 * Puts corners where their arms meet, and leaves out the points beside them, which blur has drawn inward.
 * @param ends points at either end that stay
 * @returns also where the corners are among the points
 */
function cornered(
  all: readonly Point[],
  corners: readonly Corner[],
  ends: number,
): { kept: Point[]; stops: number[] } {
  const at = new Map(corners.map((one) => [one.index, one]));
  const kept: Point[] = [];
  const stops: number[] = [];
  all.forEach((point, i) => {
    const corner = at.get(i);
    if (corner) {
      stops.push(kept.length);
      kept.push([corner.x, corner.y]);
      return;
    }
    const isEnd = i < ends || i >= all.length - ends;
    const near = corners.some(({ index }) => Math.abs(index - i) <= ROUNDED);
    if (isEnd || !near) kept.push(point);
  });
  return { kept, stops };
}

function between(points: readonly Point[], stops: readonly number[], round: boolean): number[] {
  const curve = [...points[0]!];
  const off = Math.min(LOOSE, Math.max(TIGHT, WAVES * wavinessOf(points, stops)));
  for (let i = 1; i < stops.length; i++) {
    const part = points.slice(stops[i - 1]!, stops[i]! + 1);
    for (const value of curvesThrough(part, round, off)) curve.push(value);
  }
  return curve;
}

/** Straight pieces from point to point, as curves. */
function straight(points: readonly Point[]): number[] {
  const curve: number[] = [...(points[0] ?? [])];
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const along = (t: number) => [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
    curve.push(...along(1 / 3), ...along(2 / 3), ...b);
  }
  return curve;
}
