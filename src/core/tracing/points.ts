import type { Raster } from '../raster/raster';
import type { Areas } from './areas';
import type { Boundary } from './boundaries';
import { fillAt } from './fills';
import { OUTSIDE, type Fill } from './tracing';

/** Pixels on either side of a boundary that tell where it runs. */
const DEEP = 4;
/** As far from the sides of its pixels as a boundary may be found. */
const FAR = 1.5;
/** Corners on either side that tell a boundary's direction. */
const ARM = 4;
/** Points so close to a junction are told by a third area as well, and left out. */
const CLEAR = 4;

/** Where a boundary runs, to fractions of a pixel: x, y of each point. */
export interface Line {
  left: number;
  right: number;
  points: Float64Array;
  closed: boolean;
}

/**
 * Finds where a boundary runs by how its pixels are mixed of both areas: along a row or column across it, what each of
 * them covers adds up to where one ends.
 */
export function lineOf(
  picture: Raster,
  areas: Areas,
  fills: readonly Fill[],
  boundary: Boundary,
): Line {
  const { left, right, corners, closed } = boundary;
  const count = corners.length / 2 - 1;
  const points: number[] = [];
  const corner = (k: number): [number, number] => {
    const at = closed ? ((k % count) + count) % count : Math.min(count, Math.max(0, k));
    return [corners[2 * at]!, corners[2 * at + 1]!];
  };
  const onFrame = left === OUTSIDE || right === OUTSIDE;
  if (!closed) points.push(...corner(0));
  for (let k = 0; k < count; k++) {
    const [x, y] = corner(k);
    const [nextX, nextY] = corner(k + 1);
    const [fromX, fromY] = corner(k - ARM);
    const [toX, toY] = corner(k + 1 + ARM);
    const upright = x === nextX;
    const steepHere = Math.abs(toY - fromY) > Math.abs(toX - fromX);
    if (onFrame || upright !== steepHere) continue;
    if (!closed && count > 4 * CLEAR && (k < CLEAR || k >= count - CLEAR)) continue;
    const [wayX, wayY] = [nextX - x, nextY - y];
    // Heading right, the left-hand side lies above.
    const [overX, overY] = [-wayY, wayX];
    // The pixel to the right of the side.
    const pixel = [
      wayX === 1 || wayY === -1 ? x : x - 1,
      wayX === 1 || wayY === 1 ? y : y - 1,
    ] as const;
    const off = offset(picture, areas, fills, { left, right }, pixel, [overX, overY]);
    points.push((x + nextX) / 2 + off * overX, (y + nextY) / 2 + off * overY);
  }
  if (!closed) points.push(...corner(count));
  return { left, right, points: Float64Array.from(points), closed };
}

/** How far beyond the sides of its pixels, towards the right-hand area, a boundary runs. */
function offset(
  { planes }: Raster,
  { width, height, of }: Areas,
  fills: readonly Fill[],
  { left, right }: { left: number; right: number },
  [x, y]: readonly [number, number],
  [overX, overY]: readonly [number, number],
): number {
  const run = (startX: number, startY: number, way: number, area: number): number => {
    let length = 0;
    let [u, v] = [startX, startY];
    while (
      length < 2 * DEEP &&
      u >= 0 &&
      v >= 0 &&
      u < width &&
      v < height &&
      of[v * width + u] === area
    ) {
      length++;
      u += way * overX;
      v += way * overY;
    }
    return Math.min(DEEP, Math.ceil(length / 2));
  };
  const onRight = run(x, y, 1, right);
  const onLeft = run(x - overX, y - overY, -1, left);
  let covered = 0;
  for (let k = -onLeft; k < onRight; k++) {
    const [u, v] = [x + k * overX, y + k * overY];
    let [along, apart] = [0, 0];
    for (let c = 0; c < planes.length; c++) {
      const one = fillAt(fills[left]!, c, u + 0.5, v + 0.5);
      const step = fillAt(fills[right]!, c, u + 0.5, v + 0.5) - one;
      along += (planes[c]![v * width + u]! - one) * step;
      apart += step * step;
    }
    covered += apart > 0 ? Math.min(1, Math.max(0, along / apart)) : k < 0 ? 0 : 1;
  }
  return Math.min(FAR, Math.max(-FAR, onRight - covered));
}
