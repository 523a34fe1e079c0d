/**
 * Functions whose every bit follows from IEEE 754 arithmetic alone. Engines may round Math.sin and
 * Math.exp differently; weights built on these are the same in a browser and on the server.
 */

/** sin(pi x); error below 1e-15. */
export function sinPi(x: number): number {
  const turns = x - 2 * Math.round(x / 2); // -1 to 1
  const folded = turns > 0.5 ? 1 - turns : turns < -0.5 ? -1 - turns : turns;
  const y = folded * Math.PI;
  const square = y * y;
  let term = y;
  let sum = y;
  for (let n = 2; n <= 24; n += 2) {
    term *= -square / (n * (n + 1));
    sum += term;
  }
  return sum;
}

/** The length of a vector; Math.hypot may be rounded differently. */
export const lengthOf = (x: number, y: number, z = 0): number => Math.sqrt(x * x + y * y + z * z);

/**
 * The angle of a vector, in radians from -pi to pi; error below 1e-7 (Abramowitz & Stegun 1964, 4.4.49).
 */
export function angleOf(x: number, y: number): number {
  const [along, across] = [Math.abs(x), Math.abs(y)];
  if (along === 0 && across === 0) return 0;
  const steep = across > along;
  const t = steep ? along / across : across / along;
  const square = t * t;
  let sum = 0;
  for (const term of ARCTANGENT) sum = sum * square + term;
  const low = t * (1 + square * sum);
  const quadrant = steep ? Math.PI / 2 - low : low;
  const half = x < 0 ? Math.PI - quadrant : quadrant;
  return y < 0 ? -half : half;
}

/** Of the series of the arc tangent, the highest power first. */
const ARCTANGENT = [
  0.0028662257, -0.0161657367, 0.0429096138, -0.07528964, 0.1065626393, -0.1420889944, 0.1999355085,
  -0.3333314528,
];

/** 2^x to nine decimals: near enough to be the same everywhere, whatever an engine's last bit is. */
export const powerOfTwo = (x: number): number => Number((2 ** x).toFixed(9));

/** e^x for x at or below 0, by Taylor's series on a halved argument; relative error below 1e-14. */
export function expNegative(x: number): number {
  if (x < -700) return 0;
  let halvings = 0;
  let small = x;
  while (small < -0.25) {
    small /= 2;
    halvings++;
  }
  let term = 1;
  let sum = 1;
  for (let n = 1; n <= 14; n++) {
    term *= small / n;
    sum += term;
  }
  for (; halvings > 0; halvings--) sum *= sum;
  return sum;
}

/**
 * Bessel function of the first kind and order one, for 0 to 12, by its power series; error below
 * 1e-11, since terms of some hundreds cancel.
 */
export function besselJ1(x: number): number {
  const square = (x * x) / 4;
  let term = x / 2;
  let sum = term;
  for (let k = 1; k < 50; k++) {
    term *= -square / (k * (k + 1));
    sum += term;
  }
  return sum;
}

/** The n-th root of a number from 0 on, by Newton's method: additions, products and quotients alone. */
export function rootOf(x: number, n: number): number {
  if (x <= 0) return 0;
  let root = x < 1 ? 1 : x;
  for (let i = 0; i < 200; i++) {
    let power = 1;
    for (let k = 1; k < n; k++) power *= root;
    const next = ((n - 1) * root + x / power) / n;
    if (!(next < root)) break;
    root = next;
  }
  return root;
}

/** 0 below `low`, 1 above `high`, smooth between; falls where `low` is the greater. */
export function smoothStep(value: number, low: number, high: number): number {
  const share = Math.min(1, Math.max(0, (value - low) / (high - low)));
  return share * share * (3 - 2 * share);
}
