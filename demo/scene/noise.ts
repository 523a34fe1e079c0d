/** Smooth value noise from an integer hash: the same numbers on every machine. */

/** A repeatable number 0–1 for two whole numbers (after Jenkins' one-at-a-time mixing). */
export function hash(x: number, y: number): number {
  let h = (Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1)) | 0;
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

export function valueNoise(x: number, y: number): number {
  const i = Math.floor(x);
  const j = Math.floor(y);
  const u = x - i;
  const v = y - j;
  const a = u * u * (3 - 2 * u);
  const b = v * v * (3 - 2 * v);
  const top = hash(i, j) * (1 - a) + hash(i + 1, j) * a;
  const bottom = hash(i, j + 1) * (1 - a) + hash(i + 1, j + 1) * a;
  return top * (1 - b) + bottom * b;
}

/** Octaves of noise, each twice as fine and half as strong; 0 to nearly 1. */
export function fractal(x: number, y: number, octaves: number): number {
  let sum = 0;
  let strength = 0.5;
  for (let k = 0; k < octaves; k++) {
    sum += strength * valueNoise(x, y);
    x = x * 2.03 + 17.1;
    y = y * 2.03 + 9.7;
    strength *= 0.5;
  }
  return sum;
}
