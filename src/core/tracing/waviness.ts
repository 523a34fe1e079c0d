import { solve } from './solve';

/** Points of a line that are looked at together: about as many as four pixels of the file are long. */
const WINDOW = 17;

/**
 * How far a line's points are off a smooth one, in pixels: what is left of windows of it (root mean square) once a
 * cubic is taken away, of the middle one of all windows.
 * @param stops where its corners are, which are not meant
 */
export function wavinessOf(
  points: readonly (readonly [number, number])[],
  stops: readonly number[],
): number {
  const found: number[] = [];
  for (let k = 0; k + 1 < stops.length; k++)
    for (let from = stops[k]!; from + WINDOW <= stops[k + 1]!; from += WINDOW >> 1)
      found.push(leftOf(points.slice(from, from + WINDOW)));
  found.sort((a, b) => a - b);
  return found[found.length >> 1] ?? 0;
}

/** What is left of both coordinates once each is told by a cubic. */
function leftOf(points: readonly (readonly [number, number])[]): number {
  const size = 4;
  const matrix = new Float64Array(size * size);
  const sides = [new Float64Array(size), new Float64Array(size)];
  let squares = 0;
  points.forEach(([x, y], i) => {
    const t = (2 * i) / (points.length - 1) - 1;
    const row = [1, t, t * t, t * t * t];
    const off = [x - points[0]![0], y - points[0]![1]];
    for (let a = 0; a < size; a++) {
      for (let b = 0; b < size; b++) matrix[a * size + b]! += row[a]! * row[b]!;
      for (let c = 0; c < 2; c++) sides[c]![a]! += row[a]! * off[c]!;
    }
    squares += off[0]! * off[0]! + off[1]! * off[1]!;
  });
  for (const side of sides) {
    const found = solve(matrix, side);
    if (!found) return 0;
    for (let a = 0; a < size; a++) squares -= found[a]! * side[a]!;
  }
  return Math.sqrt(Math.max(0, squares) / points.length);
}
