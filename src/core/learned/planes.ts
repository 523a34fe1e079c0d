/** Steps of a quantisation table, in levels, that count as having kept nothing. */
const WORST = 80;

/**
 * How badly a quantisation table damages a picture, 0 not at all to 1: the mean of its sixteen
 * slowest waves, where most of a picture lies.
 */
export function severityOf(table: readonly number[]): number {
  let sum = 0;
  for (let v = 0; v < 4; v++) for (let u = 0; u < 4; u++) sum += table[v * 8 + u]!;
  return Math.min(1, Math.sqrt(sum / 16 / WORST));
}
