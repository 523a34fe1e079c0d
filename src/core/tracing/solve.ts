/**
 * Solves a small system of equations by elimination with pivots.
 * @param matrix row by row, of as many rows as there are sides
 * @returns null where it has no one solution
 */
export function solve(matrix: Float64Array, sides: Float64Array): Float64Array | null {
  const size = sides.length;
  const rows = Float64Array.from(matrix);
  const found = Float64Array.from(sides);
  const most = Math.max(...rows.map(Math.abs));
  for (let k = 0; k < size; k++) {
    let pivot = k;
    for (let i = k + 1; i < size; i++)
      if (Math.abs(rows[i * size + k]!) > Math.abs(rows[pivot * size + k]!)) pivot = i;
    if (Math.abs(rows[pivot * size + k]!) <= 1e-10 * most) return null;
    for (let j = 0; j < size; j++) {
      const kept = rows[k * size + j]!;
      rows[k * size + j] = rows[pivot * size + j]!;
      rows[pivot * size + j] = kept;
    }
    const kept = found[k]!;
    found[k] = found[pivot]!;
    found[pivot] = kept;
    for (let i = 0; i < size; i++) {
      if (i === k) continue;
      const times = rows[i * size + k]! / rows[k * size + k]!;
      if (times === 0) continue;
      for (let j = k; j < size; j++) rows[i * size + j]! -= times * rows[k * size + j]!;
      found[i]! -= times * found[k]!;
    }
  }
  return found.map((value, i) => value / rows[i * size + i]!);
}
