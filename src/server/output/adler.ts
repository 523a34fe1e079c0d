const BASE = 65_521;
/** So many bytes are added before the sums are reduced: they stay within 32 bits. */
const MOST = 3800;

/** The sum of a zlib stream (RFC 1950, 8.2), as an unsigned number of 32 bits. */
export function adler32(bytes: Uint8Array): number {
  let a = 1;
  let b = 0;
  for (let from = 0; from < bytes.length; from += MOST) {
    const to = Math.min(bytes.length, from + MOST);
    for (let i = from; i < to; i++) b += a += bytes[i]!;
    a %= BASE;
    b %= BASE;
  }
  return b * 65_536 + a;
}

/** The sum of two runs of bytes, one after the other, by the sum of each. @param length bytes of the second */
export function joinedAdler32(first: number, second: number, length: number): number {
  const [a1, b1] = [first % 65_536, Math.floor(first / 65_536)];
  const [a2, b2] = [second % 65_536, Math.floor(second / 65_536)];
  // Each byte of the second adds the first's own sum once more, less the 1 that both begin with.
  const a = (a1 + a2 - 1 + BASE) % BASE;
  const b = (b1 + b2 + (length % BASE) * (a1 - 1 + BASE)) % BASE;
  return b * 65_536 + a;
}
