/** Cosines of n pi / 16, halved: the factors of the orthonormal 8-point transform. */
const C0 = 0.35355339059327376; // 1 / sqrt(8)
const C1 = 0.49039264020161522;
const C2 = 0.46193976625564337;
const C3 = 0.41573480615127262;
const C5 = 0.27778511650980109;
const C6 = 0.19134171618254489;
const C7 = 0.09754516100806412;

/**
 * Orthonormal 8-point DCT-II (Ahmed, Natarajan & Rao 1974) of `from[at + k * step]`, k = 0–7,
 * into `to` at the same stepping. In double precision throughout.
 */
export function forward8(
  from: Float64Array,
  at: number,
  step: number,
  to: Float64Array,
  toAt: number,
  toStep: number,
): void {
  const s0 = from[at]!;
  const s1 = from[at + step]!;
  const s2 = from[at + 2 * step]!;
  const s3 = from[at + 3 * step]!;
  const s4 = from[at + 4 * step]!;
  const s5 = from[at + 5 * step]!;
  const s6 = from[at + 6 * step]!;
  const s7 = from[at + 7 * step]!;
  const a0 = s0 + s7;
  const a1 = s1 + s6;
  const a2 = s2 + s5;
  const a3 = s3 + s4;
  const b0 = s0 - s7;
  const b1 = s1 - s6;
  const b2 = s2 - s5;
  const b3 = s3 - s4;
  to[toAt] = (a0 + a1 + a2 + a3) * C0;
  to[toAt + toStep] = b0 * C1 + b1 * C3 + b2 * C5 + b3 * C7;
  to[toAt + 2 * toStep] = (a0 - a3) * C2 + (a1 - a2) * C6;
  to[toAt + 3 * toStep] = b0 * C3 - b1 * C7 - b2 * C1 - b3 * C5;
  to[toAt + 4 * toStep] = (a0 - a1 - a2 + a3) * C0;
  to[toAt + 5 * toStep] = b0 * C5 - b1 * C1 + b2 * C7 + b3 * C3;
  to[toAt + 6 * toStep] = (a0 - a3) * C6 - (a1 - a2) * C2;
  to[toAt + 7 * toStep] = b0 * C7 - b1 * C5 + b2 * C3 - b3 * C1;
}

/** The inverse of `forward8`. */
export function inverse8(
  from: Float64Array,
  at: number,
  step: number,
  to: Float64Array,
  toAt: number,
  toStep: number,
): void {
  const x0 = from[at]!;
  const x1 = from[at + step]!;
  const x2 = from[at + 2 * step]!;
  const x3 = from[at + 3 * step]!;
  const x4 = from[at + 4 * step]!;
  const x5 = from[at + 5 * step]!;
  const x6 = from[at + 6 * step]!;
  const x7 = from[at + 7 * step]!;
  const p = (x0 + x4) * C0;
  const q = (x0 - x4) * C0;
  const r = x2 * C2 + x6 * C6;
  const s = x2 * C6 - x6 * C2;
  const a0 = p + r;
  const a3 = p - r;
  const a1 = q + s;
  const a2 = q - s;
  const b0 = x1 * C1 + x3 * C3 + x5 * C5 + x7 * C7;
  const b1 = x1 * C3 - x3 * C7 - x5 * C1 - x7 * C5;
  const b2 = x1 * C5 - x3 * C1 + x5 * C7 + x7 * C3;
  const b3 = x1 * C7 - x3 * C5 + x5 * C3 - x7 * C1;
  to[toAt] = a0 + b0;
  to[toAt + toStep] = a1 + b1;
  to[toAt + 2 * toStep] = a2 + b2;
  to[toAt + 3 * toStep] = a3 + b3;
  to[toAt + 4 * toStep] = a3 - b3;
  to[toAt + 5 * toStep] = a2 - b2;
  to[toAt + 6 * toStep] = a1 - b1;
  to[toAt + 7 * toStep] = a0 - b0;
}
