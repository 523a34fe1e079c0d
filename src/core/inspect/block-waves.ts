import type { Patch } from './patches';

export type Plane = Pick<Patch, 'x' | 'y' | 'width' | 'height' | 'luma'>;

/** Waves of a block (8 v + u) that tell of tables: the slowest, which are quantised finest and are nearly never all zero. */
export const WAVES = [1, 8, 16, 9, 2, 3, 10, 17, 24] as const;

const COSINES = Float64Array.from({ length: 64 }, (_, i) => {
  const [k, n] = [i >> 3, i & 7];
  return (k === 0 ? Math.sqrt(1 / 8) : 0.5) * Math.cos(((2 * n + 1) * k * Math.PI) / 16);
});

/** The waves of WAVES go so many times across a block at most, counted from none. */
const ACROSS = 4;

/** Calls back with every wave of WAVES of every whole block of a patch. @param offset where a block begins, 0–7 */
export function eachWave(
  { x, y, width, height, luma }: Plane,
  offset: { x: number; y: number },
  add: (wave: number, value: number) => void,
): void {
  const first = (from: number, begin: number) => (((begin - from) % 8) + 8) % 8;
  const rows = new Float64Array(ACROSS * 8);
  for (let top = first(y, offset.y); top + 8 <= height; top += 8)
    for (let left = first(x, offset.x); left + 8 <= width; left += 8) {
      for (let j = 0; j < 8; j++)
        for (let u = 0, at = (top + j) * width + left; u < ACROSS; u++) {
          let sum = 0;
          for (let k = 0; k < 8; k++) sum += COSINES[u * 8 + k]! * luma[at + k]!;
          rows[u * 8 + j] = sum;
        }
      for (let i = 0; i < WAVES.length; i++) {
        const down = WAVES[i]! & ~7;
        const across = 8 * (WAVES[i]! & 7);
        let sum = 0;
        for (let j = 0; j < 8; j++) sum += COSINES[down + j]! * rows[across + j]!;
        add(i, sum);
      }
    }
}

/**
 * Some waves of every block of a patch that begins anywhere, by where it begins: nothing in the last seven rows and
 * columns. Those of the next wave take the place of those before.
 */
export function* wavesAnywhere(
  { width, height, luma }: Plane,
  waves: readonly number[],
): Generator<Float64Array> {
  const across = new Map<number, Float64Array>();
  const values = new Float64Array(width * height);
  for (const wave of waves) {
    const u = wave & 7;
    if (!across.has(u)) across.set(u, wavesOfRows(luma, width, height, u));
    wavesOfColumns(across.get(u)!, width, height, wave >> 3, values);
    yield values;
  }
}

/** A wave of every eight values of a column, by where they begin. */
function wavesOfColumns(
  rows: Float64Array,
  width: number,
  height: number,
  v: number,
  values: Float64Array,
): void {
  for (let top = 0; top + 8 <= height; top++)
    for (let at = top * width, end = at + width - 7; at < end; at++) {
      let sum = 0;
      for (let j = 0; j < 8; j++) sum += COSINES[v * 8 + j]! * rows[at + j * width]!;
      values[at] = sum;
    }
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
