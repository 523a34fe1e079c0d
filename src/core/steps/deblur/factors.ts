import type { Taps } from './point-spread';

/**
 * A part of square weights that is a column of weights times a row of them, both alike to either side of their middle:
 * the middle's weight, that of what lies one pixel off, and so on.
 */
export interface Factor {
  down: Float64Array;
  across: Float64Array;
}

/** Turns after which columns of any square of weights here are at right angles. */
const TURNS = 40;
/** Cosine of the angle between columns from which on they count as at right angles. */
const RIGHT = 1e-10;

/**
 * Square weights as a sum of columns times rows, as few as leave no more than `rest` of them altogether: the singular
 * value decomposition, by one-sided rotations (Hestenes 1958), of the quarter that says all, in which what stands in the
 * whole twice counts by the root of two.
 * @returns null where the square is not alike to either side of its middle, along both axes, or where so many are needed
 *   that it is itself less work
 */
export function factorsOf({ side, weights }: Taps, rest: number): Factor[] | null {
  if (!isMirrored({ side, weights })) return null;
  const middle = (side - 1) / 2;
  const length = middle + 1;
  const columns = Array.from({ length }, (_, x) =>
    Float64Array.from(
      { length },
      (__, y) => weights[(y + middle) * side + x + middle]! * counts(x) * counts(y),
    ),
  );
  const turned = Array.from({ length }, (_, x) =>
    Float64Array.from({ length }, (__, y) => (x === y ? 1 : 0)),
  );
  for (let turn = 0, moved = true; moved && turn < TURNS; turn++) {
    moved = false;
    for (let i = 0; i < length; i++)
      for (let k = i + 1; k < length; k++) {
        const [a, b] = [columns[i]!, columns[k]!];
        const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
        if (Math.abs(ab) <= RIGHT * Math.sqrt(aa * bb) || ab === 0) continue;
        moved = true;
        const half = (bb - aa) / (2 * ab);
        const tangent = (half < 0 ? -1 : 1) / (Math.abs(half) + Math.sqrt(1 + half * half));
        const cos = 1 / Math.sqrt(1 + tangent * tangent);
        rotate(a, b, cos, cos * tangent);
        rotate(turned[i]!, turned[k]!, cos, cos * tangent);
      }
  }
  const uncounted = (values: Float64Array) => values.map((value, at) => value / counts(at));
  const factors = columns
    .map((column, i) => ({ column, across: turned[i]! }))
    .sort((one, other) => dot(other.column, other.column) - dot(one.column, one.column))
    .map(({ column, across }): Factor => ({ down: uncounted(column), across: uncounted(across) }));
  const left = Float64Array.from({ length: length * length }, (_, i) => {
    const x = i % length;
    return weights[((i - x) / length + middle) * side + x + middle]!;
  });
  for (const [i, { down, across }] of factors.entries()) {
    if (2 * (i + 1) >= side) return null;
    let missing = 0;
    for (let y = 0; y < length; y++)
      for (let x = 0; x < length; x++) {
        const at = y * length + x;
        left[at]! -= down[y]! * across[x]!;
        missing += Math.abs(left[at]!) * (counts(x) * counts(y)) ** 2;
      }
    if (missing <= rest) return factors.slice(0, i + 1);
  }
  return null;
}

/** By what a row or column of the quarter counts: all but the middle stand in the whole twice. */
const counts = (at: number): number => (at === 0 ? 1 : Math.SQRT2);

/** What differs by less than this of the weights is rounding. */
const ROUNDING = 1e-9;

function isMirrored({ side, weights }: Taps): boolean {
  return weights.every((weight, i) => {
    const row = i - (i % side);
    return Math.abs(weight - weights[row + side - 1 - (i % side)]!) < ROUNDING;
  });
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

function rotate(a: Float64Array, b: Float64Array, cos: number, sin: number): void {
  for (let i = 0; i < a.length; i++) {
    const [was, other] = [a[i]!, b[i]!];
    a[i] = cos * was - sin * other;
    b[i] = sin * was + cos * other;
  }
}
