// Thresholding of overlapping 8x8 cosine transforms, four shifts at a time in the lanes of a vector.
// What every pixel sums, and in which order, follows from its place on the picture alone.

// Cosines of n pi / 16, halved: the factors of the orthonormal 8-point transform.
const C0: f32 = 0.35355339059327376;
const C1: f32 = 0.49039264020161522;
const C2: f32 = 0.46193976625564337;
const C3: f32 = 0.41573480615127262;
const C5: f32 = 0.27778511650980109;
const C6: f32 = 0.19134171618254489;
const C7: f32 = 0.09754516100806412;

function times(a: v128, c: f32): v128 {
  return f32x4.mul(a, f32x4.splat(c));
}

function plus(a: v128, b: v128): v128 {
  return f32x4.add(a, b);
}

function minus(a: v128, b: v128): v128 {
  return f32x4.sub(a, b);
}

/** Orthonormal DCT-II of 8 vectors `from` + n * step, into `to` + n * toStep; steps in bytes. */
function forward8(from: usize, step: usize, to: usize, toStep: usize): void {
  const s0 = v128.load(from);
  const s1 = v128.load(from + step);
  const s2 = v128.load(from + 2 * step);
  const s3 = v128.load(from + 3 * step);
  const s4 = v128.load(from + 4 * step);
  const s5 = v128.load(from + 5 * step);
  const s6 = v128.load(from + 6 * step);
  const s7 = v128.load(from + 7 * step);
  const a0 = plus(s0, s7);
  const a1 = plus(s1, s6);
  const a2 = plus(s2, s5);
  const a3 = plus(s3, s4);
  const b0 = minus(s0, s7);
  const b1 = minus(s1, s6);
  const b2 = minus(s2, s5);
  const b3 = minus(s3, s4);
  const e0 = plus(a0, a3);
  const e1 = plus(a1, a2);
  const e2 = minus(a0, a3);
  const e3 = minus(a1, a2);
  v128.store(to, times(plus(e0, e1), C0));
  v128.store(
    to + toStep,
    plus(plus(times(b0, C1), times(b1, C3)), plus(times(b2, C5), times(b3, C7))),
  );
  v128.store(to + 2 * toStep, plus(times(e2, C2), times(e3, C6)));
  v128.store(
    to + 3 * toStep,
    minus(times(b0, C3), plus(plus(times(b1, C7), times(b2, C1)), times(b3, C5))),
  );
  v128.store(to + 4 * toStep, times(minus(e0, e1), C0));
  v128.store(
    to + 5 * toStep,
    plus(minus(times(b0, C5), times(b1, C1)), plus(times(b2, C7), times(b3, C3))),
  );
  v128.store(to + 6 * toStep, minus(times(e2, C6), times(e3, C2)));
  v128.store(
    to + 7 * toStep,
    plus(minus(times(b0, C7), times(b1, C5)), minus(times(b2, C3), times(b3, C1))),
  );
}

/** The inverse of `forward8`. */
function inverse8(from: usize, step: usize, to: usize, toStep: usize): void {
  const x0 = v128.load(from);
  const x1 = v128.load(from + step);
  const x2 = v128.load(from + 2 * step);
  const x3 = v128.load(from + 3 * step);
  const x4 = v128.load(from + 4 * step);
  const x5 = v128.load(from + 5 * step);
  const x6 = v128.load(from + 6 * step);
  const x7 = v128.load(from + 7 * step);
  const p = times(plus(x0, x4), C0);
  const q = times(minus(x0, x4), C0);
  const r = plus(times(x2, C2), times(x6, C6));
  const s = minus(times(x2, C6), times(x6, C2));
  const a0 = plus(p, r);
  const a3 = minus(p, r);
  const a1 = plus(q, s);
  const a2 = minus(q, s);
  const b0 = plus(plus(times(x1, C1), times(x3, C3)), plus(times(x5, C5), times(x7, C7)));
  const b1 = minus(times(x1, C3), plus(plus(times(x3, C7), times(x5, C1)), times(x7, C5)));
  const b2 = plus(minus(times(x1, C5), times(x3, C1)), plus(times(x5, C7), times(x7, C3)));
  const b3 = plus(minus(times(x1, C7), times(x3, C5)), minus(times(x5, C3), times(x7, C1)));
  v128.store(to, plus(a0, b0));
  v128.store(to + toStep, plus(a1, b1));
  v128.store(to + 2 * toStep, plus(a2, b2));
  v128.store(to + 3 * toStep, plus(a3, b3));
  v128.store(to + 4 * toStep, minus(a3, b3));
  v128.store(to + 5 * toStep, minus(a2, b2));
  v128.store(to + 6 * toStep, minus(a1, b1));
  v128.store(to + 7 * toStep, minus(a0, b0));
}

/**
 * All shifted blocks over a plane, thresholded and summed by weights 1 / (1 + coefficients kept).
 * Block n begins at column n of the plane, whose first column lies on a multiple of 4 of the picture.
 *
 * @param plane `height` + 7 rows of `stride` floats, the first 7 rows above the result
 * @param blocks how many begin in a row, a multiple of 4; `stride` holds 8 more
 * @param thresholds 64 floats, row by row
 * @param work room for 18 rows of `stride` floats and 1200 bytes
 * @param sums,weights `height` rows of `stride` floats, zeroed: weighted values, and weights
 * @param ownX,ownY column (0–7) and row (0–7) of the plane where a block of the file's own grid
 *   begins; `ownWeight` is what such a block weighs, 1 where there is none
 */
export function shiftedBlocks(
  plane: usize,
  stride: i32,
  height: i32,
  blocks: i32,
  thresholds: usize,
  work: usize,
  sums: usize,
  weights: usize,
  ownX: i32,
  ownY: i32,
  ownWeight: f32,
): void {
  const row = (<usize>stride) << 2;
  const vertical = work;
  const across = work + 8 * row;
  const rowWeights = work + 16 * row;
  const block = work + 18 * row;
  const back = block + 128;
  const one = f32x4.splat(1);
  const own = f32x4.splat(ownWeight);
  for (let top = 0; top < height + 7; top++) {
    memory.fill(across, 0, 9 * row);
    for (let i = 0; i < stride; i += 4) {
      const at = (<usize>i) << 2;
      forward8(plane + <usize>top * row + at, row, vertical + at, row);
    }
    const onRow = (top & 7) === ownY;
    for (let left = 0; left < blocks; left += 4) {
      const at = (<usize>left) << 2;
      let kept = i32x4.splat(0);
      let rows = 0;
      for (let k = 0; k < 8; k++) {
        forward8(vertical + <usize>k * row + at, 4, block, 16);
        let any = i32x4.splat(0);
        for (let j = 0; j < 8; j++) {
          const place = block + ((<usize>j) << 4);
          const value = v128.load(place);
          const least = v128.load32_splat(thresholds + ((<usize>(k * 8 + j)) << 2));
          const mask = f32x4.gt(f32x4.abs(value), least);
          v128.store(place, v128.and(value, mask));
          kept = i32x4.sub(kept, mask);
          any = v128.or(any, mask);
        }
        if (!v128.any_true(any)) continue;
        rows |= 1 << k;
        inverse8(block, 16, back + ((<usize>k) << 7), 16);
      }
      let weight = f32x4.div(one, plus(one, f32x4.convert_i32x4_s(kept)));
      if (onRow) {
        const phase = (ownX - left) & 7;
        if (phase < 4) {
          const lane = i32x4.eq(i32x4.splat(phase), i32x4(0, 1, 2, 3));
          weight = v128.bitselect(f32x4.mul(weight, own), weight, lane);
        }
      }
      for (let k = 0; k < 8; k++) {
        if (!(rows & (1 << k))) continue;
        for (let j = 0; j < 8; j++) {
          const to = across + <usize>k * row + at + ((<usize>j) << 2);
          const value = v128.load(back + ((<usize>k) << 7) + ((<usize>j) << 4));
          v128.store(to, plus(v128.load(to), f32x4.mul(weight, value)));
        }
      }
      for (let j = 0; j < 8; j++) {
        const to = rowWeights + at + ((<usize>j) << 2);
        v128.store(to, plus(v128.load(to), weight));
      }
    }
    const first = max(0, 7 - top);
    const last = min(8, height + 7 - top);
    for (let i = 0; i < stride; i += 4) {
      const at = (<usize>i) << 2;
      inverse8(across + at, row, back, 16);
      const weight = v128.load(rowWeights + at);
      for (let k = first; k < last; k++) {
        const to = <usize>(top + k - 7) * row + at;
        v128.store(sums + to, plus(v128.load(sums + to), v128.load(back + ((<usize>k) << 4))));
        v128.store(weights + to, plus(v128.load(weights + to), weight));
      }
    }
  }
}
