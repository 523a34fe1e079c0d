import type { Areas } from './areas';
import { OUTSIDE } from './tracing';

/** A boundary between two areas: the corners of pixels that it runs along, from junction to junction or round. */
export interface Boundary {
  left: number;
  right: number;
  /** x, y of each corner */
  corners: Int32Array;
  closed: boolean;
}

// Directions along the sides of pixels, clockwise from the right, with y downward.
const STEP_X = [1, 0, -1, 0] as const;
const STEP_Y = [0, 1, 0, -1] as const;

/** All boundaries of a picture's areas, and of the picture itself; each once. */
export function boundariesOf({ width, height, of }: Areas): Boundary[] {
  const at = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? OUTSIDE : of[y * width + x]!;
  const stride = width + 1;
  // Sides that were walked: bit 0 that to the right of a corner, bit 1 that below it.
  const walked = new Uint8Array(stride * (height + 1));

  const isSide = (x: number, y: number, way: number): boolean => {
    switch (way) {
      case 0:
        return at(x, y - 1) !== at(x, y);
      case 1:
        return at(x, y) !== at(x - 1, y);
      case 2:
        return at(x - 1, y - 1) !== at(x - 1, y);
      default:
        return at(x, y - 1) !== at(x - 1, y - 1);
    }
  };
  const mark = (x: number, y: number, way: number): boolean => {
    const index = (way === 3 ? y - 1 : y) * stride + (way === 2 ? x - 1 : x);
    const bit = way % 2 === 0 ? 1 : 2;
    if (walked[index]! & bit) return false;
    walked[index]! |= bit;
    return true;
  };
  const isJunction = (x: number, y: number): boolean => {
    if ((x === 0 || x === width) && (y === 0 || y === height)) return true;
    let sides = 0;
    for (let way = 0; way < 4; way++) if (isSide(x, y, way)) sides++;
    return sides !== 0 && sides !== 2;
  };

  const found: Boundary[] = [];
  const walk = (startX: number, startY: number, first: number, closed: boolean): void => {
    if (!isSide(startX, startY, first) || !mark(startX, startY, first)) return;
    const [left, right] = besides(at, startX, startY, first);
    const corners = [startX, startY];
    let [x, y, way] = [startX, startY, first];
    for (;;) {
      x += STEP_X[way]!;
      y += STEP_Y[way]!;
      corners.push(x, y);
      if ((x === startX && y === startY) || isJunction(x, y)) break;
      const back = (way + 2) % 4;
      const next = [0, 1, 2, 3].find((one) => one !== back && isSide(x, y, one));
      if (next === undefined || !mark(x, y, next)) break;
      way = next;
    }
    found.push({ left, right, corners: Int32Array.from(corners), closed });
  };

  for (let y = 0; y <= height; y++)
    for (let x = 0; x <= width; x++)
      if (isJunction(x, y)) for (let way = 0; way < 4; way++) walk(x, y, way, false);
  // What is left runs round without meeting a junction.
  for (let y = 0; y <= height; y++)
    for (let x = 0; x <= width; x++) if (isSide(x, y, 0)) walk(x, y, 0, true);
  return found;
}

/** What lies to the left and to the right of a side that is walked in a direction. */
function besides(
  at: (x: number, y: number) => number,
  x: number,
  y: number,
  way: number,
): [left: number, right: number] {
  switch (way) {
    case 0:
      return [at(x, y - 1), at(x, y)];
    case 1:
      return [at(x, y), at(x - 1, y)];
    case 2:
      return [at(x - 1, y), at(x - 1, y - 1)];
    default:
      return [at(x - 1, y - 1), at(x, y - 1)];
  }
}
