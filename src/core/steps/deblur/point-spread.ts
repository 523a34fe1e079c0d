import { expNegative, sinPi } from '../../raster/portable-math';

/** What blurred a picture: how a point of light spreads over its pixels. */
export type Spread =
  | { form: 'gaussian'; /** standard deviation, px */ radius: number }
  | { form: 'disc'; /** of a lens out of focus, px */ radius: number }
  | {
      form: 'motion';
      /** px, and degrees counted from across to down */ length: number;
      angle: number;
    };

/** A square of weights about a pixel: `side` x `side`, odd, row by row. */
export interface Taps {
  side: number;
  weights: Float64Array;
}

/** How far a point spreads to every side, in pixels. */
export function spreadReach(spread: Spread): number {
  switch (spread.form) {
    case 'gaussian':
      return Math.ceil(4 * spread.radius);
    case 'disc':
      return Math.ceil(spread.radius + 0.5);
    case 'motion':
      return Math.ceil(spread.length / 2 + 1);
  }
}

/** Points within a pixel, along each axis, at which a disc is asked for. */
const POINTS = 8;
/** Points to a pixel along the way of a motion. */
const STEPS = 16;

/** The point spread as weights that add up to one. */
export function pointSpread(spread: Spread): Taps {
  const reach = spreadReach(spread);
  const side = 2 * reach + 1;
  const weights = new Float64Array(side * side);
  const add = (x: number, y: number, weight: number) => {
    weights[(y + reach) * side + x + reach]! += weight;
  };
  if (spread.form === 'motion') {
    const { length, angle } = spread;
    const [cos, sin] = [sinPi(angle / 180 + 0.5), sinPi(angle / 180)];
    const count = Math.max(1, Math.ceil(length * STEPS));
    for (let i = 0; i < count; i++) {
      const along = ((i + 0.5) / count - 0.5) * length;
      // A point between pixels is shared by the four about it.
      const [x, y] = [along * cos, along * sin];
      const [left, top] = [Math.floor(x), Math.floor(y)];
      const [u, v] = [x - left, y - top];
      add(left, top, (1 - u) * (1 - v));
      add(left + 1, top, u * (1 - v));
      add(left, top + 1, (1 - u) * v);
      add(left + 1, top + 1, u * v);
    }
  } else {
    const { form, radius } = spread;
    for (let y = -reach; y <= reach; y++)
      for (let x = -reach; x <= reach; x++) {
        add(x, y, form === 'gaussian' ? bell(x, y, radius) : covered(x, y, radius));
      }
  }
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return { side, weights: weights.map((weight) => weight / sum) };
}

const bell = (x: number, y: number, radius: number): number =>
  expNegative(-(x * x + y * y) / (2 * radius * radius));

/** The share of a pixel that a disc covers. */
function covered(x: number, y: number, radius: number): number {
  let inside = 0;
  for (let j = 0; j < POINTS; j++)
    for (let i = 0; i < POINTS; i++) {
      const u = x + (i + 0.5) / POINTS - 0.5;
      const v = y + (j + 0.5) / POINTS - 0.5;
      if (u * u + v * v <= radius * radius) inside++;
    }
  return inside / (POINTS * POINTS);
}
