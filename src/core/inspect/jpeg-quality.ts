/** Example tables of ITU-T T.81, annex K: luminance and colour, row by row. */
export const STANDARD_LUMA = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56,
  14, 17, 22, 29, 51, 87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113,
  92, 49, 64, 78, 87, 103, 121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99,
];
export const STANDARD_CHROMA = [
  17, 18, 24, 47, 99, 99, 99, 99, 18, 21, 26, 66, 99, 99, 99, 99, 24, 26, 56, 99, 99, 99, 99, 99,
  47, 66, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99,
  99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99, 99,
];

/** The annex K table scaled to a quality of 1–100, by the rule that the common encoders share. */
export function tableAtQuality(standard: readonly number[], quality: number): number[] {
  const scale = quality < 50 ? Math.floor(5000 / quality) : 200 - quality * 2;
  return standard.map((step) => Math.min(255, Math.max(1, Math.floor((step * scale + 50) / 100))));
}

/** A JPEG's own facts with the tables that it was compressed by before, at a quality. */
export const coarserTables = <Facts extends { luma: number[]; chroma: number[] | null }>(
  own: Facts,
  quality: number,
): Facts => ({
  ...own,
  luma: tableAtQuality(STANDARD_LUMA, quality),
  chroma: own.chroma && tableAtQuality(STANDARD_CHROMA, quality),
});

/** Above this mean difference in octaves, tables aren't scaled annex K tables. */
const COMMON = 0.12;

/**
 * The quality setting whose tables come nearest, or null for tables that aren't the common ones.
 * Differences are taken in octaves, so that small steps of good files count as much as large ones.
 */
export function estimateQuality(
  luma: readonly number[],
  chroma: readonly number[] | null,
): number | null {
  const { quality, error } = nearestQuality(luma, chroma);
  return error <= COMMON ? quality : null;
}

/** The quality whose tables come nearest, whatever they are, and how many octaves they are off on the mean. */
export function nearestQuality(
  luma: readonly number[],
  chroma: readonly number[] | null,
): { quality: number; error: number } {
  let best = Infinity;
  let found = 0;
  for (let quality = 1; quality <= 100; quality++) {
    const error =
      distance(luma, tableAtQuality(STANDARD_LUMA, quality)) +
      (chroma ? distance(chroma, tableAtQuality(STANDARD_CHROMA, quality)) : 0);
    if (error < best) {
      best = error;
      found = quality;
    }
  }
  return { quality: found, error: best / (chroma ? 2 : 1) };
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, step, i) => sum + Math.abs(Math.log2(step / b[i]!)), 0) / a.length;
