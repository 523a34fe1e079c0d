import { STANDARD_LUMA, tableAtQuality } from './jpeg-quality';
import type { Patch } from './patches';

/** Waves that are looked at: the slowest, which are quantised finest and are nearly never all zero. */
const WAVES = [1, 8, 16, 9, 2, 3, 10, 17, 24] as const;
/** A wave says nothing of its step with fewer values than this that are not zero. */
const ENOUGH = 40;
/** How well values must lie on multiples of their steps: 1 all, 0 at random. */
const CLEAR = 0.6;

type Plane = Pick<Patch, 'x' | 'y' | 'width' | 'height' | 'luma'>;

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
  for (const patch of patches) gather(patch, offset, values);
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

const COSINES = Float64Array.from({ length: 64 }, (_, i) => {
  const [k, n] = [i >> 3, i & 7];
  return (k === 0 ? Math.sqrt(1 / 8) : 0.5) * Math.cos(((2 * n + 1) * k * Math.PI) / 16);
});

/** Adds the waves of every whole block of a patch. */
function gather(
  { x, y, width, height, luma }: Plane,
  offset: { x: number; y: number },
  values: number[][],
): void {
  const first = (from: number, begin: number) => (((begin - from) % 8) + 8) % 8;
  for (let top = first(y, offset.y); top + 8 <= height; top += 8)
    for (let left = first(x, offset.x); left + 8 <= width; left += 8)
      WAVES.forEach((wave, i) => {
        const [v, u] = [wave >> 3, wave & 7];
        let sum = 0;
        for (let j = 0; j < 8; j++)
          for (let k = 0; k < 8; k++)
            sum += COSINES[v * 8 + j]! * COSINES[u * 8 + k]! * luma[(top + j) * width + left + k]!;
        values[i]!.push(sum);
      });
}
