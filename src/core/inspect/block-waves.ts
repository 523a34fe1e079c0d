import type { Patch } from './patches';

export type Plane = Pick<Patch, 'x' | 'y' | 'width' | 'height' | 'luma'>;

/** Waves of a block (8 v + u) that tell of tables: the slowest, which are quantised finest and are nearly never all zero. */
export const WAVES = [1, 8, 16, 9, 2, 3, 10, 17, 24] as const;

const COSINES = Float64Array.from({ length: 64 }, (_, i) => {
  const [k, n] = [i >> 3, i & 7];
  return (k === 0 ? Math.sqrt(1 / 8) : 0.5) * Math.cos(((2 * n + 1) * k * Math.PI) / 16);
});

/** Calls back with every wave of WAVES of every whole block of a patch. @param offset where a block begins, 0–7 */
export function eachWave(
  { x, y, width, height, luma }: Plane,
  offset: { x: number; y: number },
  add: (wave: number, value: number) => void,
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
        add(i, sum);
      });
}

/**
 * Calls back with some waves of every block of a patch that begins anywhere.
 * @param add is given which of the waves, where the block begins on the picture, and the wave's value
 */
export function eachWaveAnywhere(
  { x, y, width, height, luma }: Plane,
  waves: readonly number[],
  add: (wave: number, x: number, y: number, value: number) => void,
): void {
  const across = new Map<number, Float64Array>();
  waves.forEach((wave, i) => {
    const [v, u] = [wave >> 3, wave & 7];
    if (!across.has(u)) across.set(u, wavesOfRows(luma, width, height, u));
    const rows = across.get(u)!;
    for (let top = 0; top + 8 <= height; top++)
      for (let left = 0; left + 8 <= width; left++) {
        let sum = 0;
        for (let j = 0; j < 8; j++) sum += COSINES[v * 8 + j]! * rows[(top + j) * width + left]!;
        add(i, x + left, y + top, sum);
      }
  });
}

/** A wave of every eight pixels of a row, by where they begin. */
function wavesOfRows(luma: Float32Array, width: number, height: number, u: number): Float64Array {
  const values = new Float64Array(width * height);
  for (let row = 0; row < height; row++)
    for (let left = 0; left + 8 <= width; left++) {
      let sum = 0;
      const at = row * width + left;
      for (let k = 0; k < 8; k++) sum += COSINES[u * 8 + k]! * luma[at + k]!;
      values[at] = sum;
    }
  return values;
}
