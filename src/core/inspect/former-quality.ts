import { eachWave, WAVES, type Plane } from './block-waves';
import { STANDARD_LUMA, tableAtQuality } from './jpeg-quality';

/** A wave says nothing of its step with fewer values than this that are not zero. */
const ENOUGH = 40;
/** How well values must lie on multiples of their steps: 1 all, 0 at random. */
const CLEAR = 0.6;

/**
 * The JPEG quality that pixels were once compressed at, by the scale of the standard tables, where the
 * file no longer says so: at the right one the waves of its blocks lie on multiples of its steps (after
 * Fan & de Queiroz 2003, "Identification of bitmap compression history").
 * @param offset where a block begins, 0–7
 * @returns 5–92, or null where no table fits
 */
export function formerQuality(
  patches: readonly Plane[],
  offset: { x: number; y: number },
): number | null {
  const values = WAVES.map(() => [] as number[]);
  for (const patch of patches) {
    eachWave(patch, offset, (wave, value) => values[wave]!.push(value));
  }
  let best = 0;
  const fits: { quality: number; fit: number }[] = [];
  for (let quality = 5; quality <= 92; quality++) {
    const fit = fitOf(values, tableAtQuality(STANDARD_LUMA, quality));
    if (fit === null) continue;
    fits.push({ quality, fit });
    best = Math.max(best, fit);
  }
  if (best < CLEAR) return null;
  // Finer steps that divide the right ones fit as well: the coarsest of the good ones is meant.
  return fits.find(({ fit }) => fit > 0.93 * best)!.quality;
}

/** How well all waves lie on multiples of their steps; null where too few say anything. */
function fitOf(values: readonly number[][], table: readonly number[]): number | null {
  let sum = 0;
  let waves = 0;
  values.forEach((of, i) => {
    const step = table[WAVES[i]!]!;
    let along = 0;
    let count = 0;
    for (const value of of) {
      if (Math.abs(value) < step / 2) continue;
      along += Math.cos((2 * Math.PI * value) / step);
      count++;
    }
    if (count < ENOUGH) return;
    sum += along / count;
    waves++;
  });
  return waves < 2 ? null : sum / waves;
}
