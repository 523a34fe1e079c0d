// Row kernels of the core, in AssemblyScript with WASM's 128-bit vectors: plain IEEE arithmetic, so
// the same bits in every engine. `npm run kernels` compiles them into src/core/raster/rows-wasm.ts.
// Where no value is missing (NaN), pmin and pmax are min and max in one instruction.
// All pointers are bytes into memory; rows of floats may be read up to 15 bytes past their end.

/** out[i] = w * a[i] */
export function scaleRow(out: usize, a: usize, w: f32, n: i32): void {
  const v = f32x4.splat(w);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, f32x4.mul(v, v128.load(a + at)));
  }
}

/** out[i] = wa a[i] + wb b[i] */
export function mix2(out: usize, a: usize, b: usize, wa: f32, wb: f32, n: i32): void {
  const va = f32x4.splat(wa);
  const vb = f32x4.splat(wb);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(
      out + at,
      f32x4.add(f32x4.mul(va, v128.load(a + at)), f32x4.mul(vb, v128.load(b + at))),
    );
  }
}

/** out[i] += wa a[i] + wb b[i] */
export function add2(out: usize, a: usize, b: usize, wa: f32, wb: f32, n: i32): void {
  const va = f32x4.splat(wa);
  const vb = f32x4.splat(wb);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const sum = f32x4.add(f32x4.mul(va, v128.load(a + at)), f32x4.mul(vb, v128.load(b + at)));
    v128.store(out + at, f32x4.add(v128.load(out + at), sum));
  }
}

/** out[i] += wa a[i] */
export function add1(out: usize, a: usize, wa: f32, n: i32): void {
  const va = f32x4.splat(wa);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, f32x4.add(v128.load(out + at), f32x4.mul(va, v128.load(a + at))));
  }
}

/**
 * out[i] = half[0] x the middle one of some rows at i + the sum over k of half[k] x those k before and after it: a
 * symmetric kernel across rows, or along one whose shifts are the rows. A row may be one of them that stands nearer.
 * @param rows pointers, 2 reach + 1 of them; @param half floats, reach + 1 of them
 */
export function symmetricRow(out: usize, rows: usize, half: usize, reach: i32, n: i32): void {
  const middle = rows + ((<usize>reach) << 2);
  const whole = n & ~15;
  for (let i = 0; i < whole; i += 16) {
    const at = (<usize>i) << 2;
    const w0 = v128.load32_splat(half);
    const own = <usize>load<i32>(middle) + at;
    let s0 = f32x4.mul(w0, v128.load(own));
    let s1 = f32x4.mul(w0, v128.load(own, 16));
    let s2 = f32x4.mul(w0, v128.load(own, 32));
    let s3 = f32x4.mul(w0, v128.load(own, 48));
    let before = middle - 4;
    let after = middle + 4;
    let weight = half + 4;
    for (let k = 0; k < reach; k++) {
      const w = v128.load32_splat(weight);
      const a = <usize>load<i32>(before) + at;
      const b = <usize>load<i32>(after) + at;
      s0 = f32x4.add(s0, f32x4.mul(w, f32x4.add(v128.load(a), v128.load(b))));
      s1 = f32x4.add(s1, f32x4.mul(w, f32x4.add(v128.load(a, 16), v128.load(b, 16))));
      s2 = f32x4.add(s2, f32x4.mul(w, f32x4.add(v128.load(a, 32), v128.load(b, 32))));
      s3 = f32x4.add(s3, f32x4.mul(w, f32x4.add(v128.load(a, 48), v128.load(b, 48))));
      before -= 4;
      after += 4;
      weight += 4;
    }
    v128.store(out + at, s0);
    v128.store(out + at, s1, 16);
    v128.store(out + at, s2, 32);
    v128.store(out + at, s3, 48);
  }
  for (let i = whole; i < n; i += 4) {
    const at = (<usize>i) << 2;
    let sum = f32x4.mul(v128.load32_splat(half), v128.load(<usize>load<i32>(middle) + at));
    for (let k = 1; k <= reach; k++) {
      const off = (<usize>k) << 2;
      const a = <usize>load<i32>(middle - off) + at;
      const b = <usize>load<i32>(middle + off) + at;
      const w = v128.load32_splat(half + off);
      sum = f32x4.add(sum, f32x4.mul(w, f32x4.add(v128.load(a), v128.load(b))));
    }
    v128.store(out + at, sum);
  }
}

/**
 * Four symmetric kernels across the same rows at once: the j-th of four rows of results, a `stride` of bytes after each
 * other, by the j-th weights, as far apart as `reach` + 1 floats. @param n a multiple of eight
 */
export function symmetricRows4(
  out: usize,
  stride: usize,
  rows: usize,
  half: usize,
  reach: i32,
  n: i32,
): void {
  const middle = rows + ((<usize>reach) << 2);
  const apart = (<usize>(reach + 1)) << 2;
  for (let i = 0; i < n; i += 8) {
    const at = (<usize>i) << 2;
    let a0 = f32x4.splat(0);
    let a1 = a0;
    let b0 = a0;
    let b1 = a0;
    let c0 = a0;
    let c1 = a0;
    let d0 = a0;
    let d1 = a0;
    for (let k = 0; k <= reach; k++) {
      const off = (<usize>k) << 2;
      const after = <usize>load<i32>(middle + off) + at;
      let near = v128.load(after);
      let far = v128.load(after, 16);
      if (k > 0) {
        const before = <usize>load<i32>(middle - off) + at;
        near = f32x4.add(near, v128.load(before));
        far = f32x4.add(far, v128.load(before, 16));
      }
      const weight = half + off;
      const wa = v128.load32_splat(weight);
      const wb = v128.load32_splat(weight + apart);
      const wc = v128.load32_splat(weight + 2 * apart);
      const wd = v128.load32_splat(weight + 3 * apart);
      a0 = f32x4.add(a0, f32x4.mul(wa, near));
      a1 = f32x4.add(a1, f32x4.mul(wa, far));
      b0 = f32x4.add(b0, f32x4.mul(wb, near));
      b1 = f32x4.add(b1, f32x4.mul(wb, far));
      c0 = f32x4.add(c0, f32x4.mul(wc, near));
      c1 = f32x4.add(c1, f32x4.mul(wc, far));
      d0 = f32x4.add(d0, f32x4.mul(wd, near));
      d1 = f32x4.add(d1, f32x4.mul(wd, far));
    }
    const to = out + at;
    v128.store(to, a0);
    v128.store(to, a1, 16);
    v128.store(to + stride, b0);
    v128.store(to + stride, b1, 16);
    v128.store(to + 2 * stride, c0);
    v128.store(to + 2 * stride, c1, 16);
    v128.store(to + 3 * stride, d0);
    v128.store(to + 3 * stride, d1, 16);
  }
}

/**
 * out[i] = the sum over k of weight[i][k] times what stands k places after first[i] of a line. Sums are
 * kept in double precision, each in the order of k.
 * @param first integers, a multiple of four of them; @param weights doubles [i / 4][k][4]
 */
export function weighAlong(
  out: usize,
  line: usize,
  first: usize,
  weights: usize,
  taps: i32,
  n: i32,
): void {
  for (let i = 0; i < n; i += 4) {
    let p0 = line + ((<usize>load<i32>(first)) << 2);
    let p1 = line + ((<usize>load<i32>(first, 4)) << 2);
    let p2 = line + ((<usize>load<i32>(first, 8)) << 2);
    let p3 = line + ((<usize>load<i32>(first, 12)) << 2);
    let low = f64x2.splat(0);
    let high = low;
    for (let k = 0; k < taps; k++) {
      const a = v128.load32_lane(p1, v128.load32_zero(p0), 1);
      const b = v128.load32_lane(p3, v128.load32_zero(p2), 1);
      low = f64x2.add(low, f64x2.mul(v128.load(weights), f64x2.promote_low_f32x4(a)));
      high = f64x2.add(high, f64x2.mul(v128.load(weights, 16), f64x2.promote_low_f32x4(b)));
      p0 += 4;
      p1 += 4;
      p2 += 4;
      p3 += 4;
      weights += 32;
    }
    const put = out + ((<usize>i) << 2);
    v128.store(
      put,
      i64x2.shuffle(f32x4.demote_f64x2_zero(low), f32x4.demote_f64x2_zero(high), 0, 2),
    );
    first += 16;
  }
}

/** out[i] = a[i] / b[i] */
export function divideRow(out: usize, a: usize, b: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, f32x4.div(v128.load(a + at), v128.load(b + at)));
  }
}

/** out[i] moves by `share` of the way into the range of what four rows hold at i. */
export function limitRow(
  out: usize,
  a: usize,
  b: usize,
  c: usize,
  d: usize,
  share: f32,
  n: i32,
): void {
  const v = f32x4.splat(share);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const va = v128.load(a + at);
    const vb = v128.load(b + at);
    const vc = v128.load(c + at);
    const vd = v128.load(d + at);
    const low = f32x4.min(f32x4.min(va, vb), f32x4.min(vc, vd));
    const high = f32x4.max(f32x4.max(va, vb), f32x4.max(vc, vd));
    const is = v128.load(out + at);
    const within = f32x4.min(f32x4.max(is, low), high);
    v128.store(out + at, f32x4.add(is, f32x4.mul(v, f32x4.sub(within, is))));
  }
}

/** out[i] = c[i] less its mean over a period of four: (a + 2 b + 2 c + 2 d + e) / 8. */
export function lessPeriod(
  out: usize,
  a: usize,
  b: usize,
  c: usize,
  d: usize,
  e: usize,
  n: i32,
): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const here = v128.load(c + at);
    const ends = f32x4.add(v128.load(a + at), v128.load(e + at));
    const inner = f32x4.add(f32x4.add(v128.load(b + at), v128.load(d + at)), here);
    const sum = f32x4.add(ends, f32x4.add(inner, inner));
    v128.store(out + at, f32x4.sub(here, f32x4.mul(sum, f32x4.splat(0.125))));
  }
}

/** out[i] -= what a, b, c, d, e at i all agree on: the least of them, where they are of one sign. */
export function lessCommon(
  out: usize,
  a: usize,
  b: usize,
  c: usize,
  d: usize,
  e: usize,
  n: i32,
): void {
  const zero = f32x4.splat(0);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const va = v128.load(a + at);
    const vb = v128.load(b + at);
    const vc = v128.load(c + at);
    const vd = v128.load(d + at);
    const ve = v128.load(e + at);
    const low = f32x4.pmin(f32x4.pmin(f32x4.pmin(va, vb), f32x4.pmin(vc, vd)), ve);
    const high = f32x4.pmax(f32x4.pmax(f32x4.pmax(va, vb), f32x4.pmax(vc, vd)), ve);
    const common = f32x4.add(f32x4.pmax(zero, low), f32x4.pmin(zero, high));
    v128.store(out + at, f32x4.sub(v128.load(out + at), common));
  }
}

/** Sixteen floats of a plane to bytes: x 255, rounded half up, clamped. */
function sixteenBytes(from: usize): v128 {
  const full = f32x4.splat(255);
  const half = f32x4.splat(0.5);
  // The saturating conversion turns what is below 0, and no number at all, into 0.
  const a = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(v128.load(from), full), half));
  const b = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(v128.load(from, 16), full), half));
  const c = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(v128.load(from, 32), full), half));
  const d = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(v128.load(from, 48), full), half));
  // Narrowing reads signed lanes: cap before it, so that huge values stay huge.
  const top = i32x4.splat(255);
  return i8x16.narrow_i16x8_u(
    i16x8.narrow_i32x4_u(i32x4.min_u(a, top), i32x4.min_u(b, top)),
    i16x8.narrow_i32x4_u(i32x4.min_u(c, top), i32x4.min_u(d, top)),
  );
}

/** Three planes to interleaved bytes, 16 pixels a turn; `out` is written up to 47 bytes past its end. */
export function interleave3(out: usize, r: usize, g: usize, b: usize, n: i32): void {
  for (let i = 0; i < n; i += 16) {
    const at = (<usize>i) << 2;
    const red = sixteenBytes(r + at);
    const green = sixteenBytes(g + at);
    const blue = sixteenBytes(b + at);
    const to = out + <usize>i * 3;
    const rg0 = i8x16.shuffle(red, green, 0, 16, 0, 1, 17, 0, 2, 18, 0, 3, 19, 0, 4, 20, 0, 5);
    v128.store(
      to,
      i8x16.shuffle(rg0, blue, 0, 1, 16, 3, 4, 17, 6, 7, 18, 9, 10, 19, 12, 13, 20, 15),
    );
    const rg1 = i8x16.shuffle(red, green, 21, 0, 6, 22, 0, 7, 23, 0, 8, 24, 0, 9, 25, 0, 10, 26);
    v128.store(
      to,
      i8x16.shuffle(rg1, blue, 0, 21, 2, 3, 22, 5, 6, 23, 8, 9, 24, 11, 12, 25, 14, 15),
      16,
    );
    const rg2 = i8x16.shuffle(red, green, 0, 11, 27, 0, 12, 28, 0, 13, 29, 0, 14, 30, 0, 15, 31, 0);
    v128.store(
      to,
      i8x16.shuffle(rg2, blue, 26, 1, 2, 27, 4, 5, 28, 7, 8, 29, 10, 11, 30, 13, 14, 31),
      32,
    );
  }
}

/** Three planes to RGBA bytes with full alpha, 16 pixels a turn; writes up to 63 bytes past the end. */
export function interleaveRgba(out: usize, r: usize, g: usize, b: usize, n: i32): void {
  const full = i8x16.splat(-1);
  for (let i = 0; i < n; i += 16) {
    const at = (<usize>i) << 2;
    storeFour(out + at, sixteenBytes(r + at), sixteenBytes(g + at), sixteenBytes(b + at), full);
  }
}

/** Four planes to interleaved bytes, in the same way. */
export function interleave4(out: usize, a: usize, b: usize, c: usize, d: usize, n: i32): void {
  for (let i = 0; i < n; i += 16) {
    const at = (<usize>i) << 2;
    storeFour(
      out + at,
      sixteenBytes(a + at),
      sixteenBytes(b + at),
      sixteenBytes(c + at),
      sixteenBytes(d + at),
    );
  }
}

/** Four times sixteen bytes, one of each after the other. */
function storeFour(to: usize, red: v128, green: v128, blue: v128, alpha: v128): void {
  const rgLow = i8x16.shuffle(red, green, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
  const rgHigh = i8x16.shuffle(
    red,
    green,
    8,
    24,
    9,
    25,
    10,
    26,
    11,
    27,
    12,
    28,
    13,
    29,
    14,
    30,
    15,
    31,
  );
  const baLow = i8x16.shuffle(blue, alpha, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
  const baHigh = i8x16.shuffle(
    blue,
    alpha,
    8,
    24,
    9,
    25,
    10,
    26,
    11,
    27,
    12,
    28,
    13,
    29,
    14,
    30,
    15,
    31,
  );
  v128.store(to, i16x8.shuffle(rgLow, baLow, 0, 8, 1, 9, 2, 10, 3, 11));
  v128.store(to, i16x8.shuffle(rgLow, baLow, 4, 12, 5, 13, 6, 14, 7, 15), 16);
  v128.store(to, i16x8.shuffle(rgHigh, baHigh, 0, 8, 1, 9, 2, 10, 3, 11), 32);
  v128.store(to, i16x8.shuffle(rgHigh, baHigh, 4, 12, 5, 13, 6, 14, 7, 15), 48);
}

/** out[i] = the luminance of r, g, b (Rec. ITU-R BT.601 on encoded values). */
export function luminanceRow(out: usize, r: usize, g: usize, b: usize, n: i32): void {
  const red = f32x4.splat(0.299);
  const green = f32x4.splat(0.587);
  const blue = f32x4.splat(0.114);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const rg = f32x4.add(f32x4.mul(red, v128.load(r + at)), f32x4.mul(green, v128.load(g + at)));
    v128.store(out + at, f32x4.add(rg, f32x4.mul(blue, v128.load(b + at))));
  }
}

/** out[0..3][i] += weights[0..3] times a[i]: a row's share of the four rows of a reduced grid about it. */
export function spread4(
  o0: usize,
  o1: usize,
  o2: usize,
  o3: usize,
  a: usize,
  w0: f32,
  w1: f32,
  w2: f32,
  w3: f32,
  n: i32,
): void {
  const v0 = f32x4.splat(w0);
  const v1 = f32x4.splat(w1);
  const v2 = f32x4.splat(w2);
  const v3 = f32x4.splat(w3);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const v = v128.load(a + at);
    v128.store(o0 + at, f32x4.add(v128.load(o0 + at), f32x4.mul(v0, v)));
    v128.store(o1 + at, f32x4.add(v128.load(o1 + at), f32x4.mul(v1, v)));
    v128.store(o2 + at, f32x4.add(v128.load(o2 + at), f32x4.mul(v2, v)));
    v128.store(o3 + at, f32x4.add(v128.load(o3 + at), f32x4.mul(v3, v)));
  }
}

/**
 * A row of `cells` cells as a row of pixels, `factor` to a cell (a multiple of four): cubic B-splines
 * about their middles. @param from the cell before the first one's neighbour: two cells to the left
 * @param table weights of the five cells about a pixel of a cell, [5][factor]
 */
export function splineRow(out: usize, from: usize, cells: i32, factor: i32, table: usize): void {
  const row = (<usize>factor) << 2;
  for (let c = 0; c < cells; c++) {
    const a = v128.load32_splat(from);
    const b = v128.load32_splat(from, 4);
    const d = v128.load32_splat(from, 8);
    const e = v128.load32_splat(from, 12);
    const f = v128.load32_splat(from, 16);
    from += 4;
    for (let i: usize = 0; i < row; i += 16) {
      const t = table + i;
      const ab = f32x4.add(f32x4.mul(a, v128.load(t)), f32x4.mul(b, v128.load(t + row)));
      const de = f32x4.add(
        f32x4.mul(d, v128.load(t + 2 * row)),
        f32x4.mul(e, v128.load(t + 3 * row)),
      );
      v128.store(out + i, f32x4.add(f32x4.add(ab, de), f32x4.mul(f, v128.load(t + 4 * row))));
    }
    out += row;
  }
}

/**
 * Unsharp mask of a row of luminance: an amount x (luminance - soft), less the threshold, is added: `light` where that
 * makes it lighter, `dark` where it makes it darker.
 */
export function unsharpRow(
  out: usize,
  luma: usize,
  soft: usize,
  light: f32,
  dark: f32,
  threshold: f32,
  n: i32,
): void {
  const lighter = f32x4.splat(light);
  const darker = f32x4.splat(dark);
  const least = f32x4.splat(threshold);
  const zero = f32x4.splat(0);
  const sign = i32x4.splat(0x80000000);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const own = v128.load(luma + at);
    const difference = f32x4.sub(own, v128.load(soft + at));
    const beyond = f32x4.pmax(zero, f32x4.sub(f32x4.abs(difference), least));
    const signed = v128.or(beyond, v128.and(difference, sign));
    const times = v128.bitselect(lighter, darker, f32x4.ge(difference, zero));
    v128.store(out + at, f32x4.add(own, f32x4.mul(times, signed)));
  }
}

/** What a layer of (luminance - soft) about middle grey is; 0–1. */
function highpassOf(own: v128, soft: v128): v128 {
  const layer = f32x4.add(f32x4.sub(own, soft), f32x4.splat(0.5));
  return f32x4.pmin(f32x4.pmax(layer, f32x4.splat(0)), f32x4.splat(1));
}

/** out[i] = luminance less what is soft of it, about middle grey, cut off at 0 and 1 */
export function highpassRow(out: usize, luma: usize, soft: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, highpassOf(v128.load(luma + at), v128.load(soft + at)));
  }
}

/**
 * Luminance under its own high-pass, blended by overlay (0), soft light (1; both as in W3C Compositing and Blending
 * Level 1) or linear light (2). What lies beyond 0–1 keeps its distance.
 */
export function blendHighpassRow(out: usize, luma: usize, soft: usize, mode: i32, n: i32): void {
  const zero = f32x4.splat(0);
  const half = f32x4.splat(0.5);
  const one = f32x4.splat(1);
  const two = f32x4.splat(2);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const own = v128.load(luma + at);
    const layer = highpassOf(own, v128.load(soft + at));
    const ground = f32x4.pmin(f32x4.pmax(own, zero), one);
    // From -1 to 1: how far the layer pulls.
    const pull = f32x4.sub(f32x4.mul(two, layer), one);
    let room: v128;
    if (mode === 2) room = one;
    else if (mode === 0) {
      room = v128.bitselect(ground, f32x4.sub(one, ground), f32x4.le(ground, half));
    } else {
      const down = f32x4.mul(ground, f32x4.sub(one, ground));
      const cubic = f32x4.mul(
        f32x4.add(
          f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), ground), f32x4.splat(12)), ground),
          f32x4.splat(4),
        ),
        ground,
      );
      const dark = f32x4.le(ground, f32x4.splat(0.25));
      const bent = v128.bitselect(cubic, f32x4.sqrt(ground), dark);
      room = v128.bitselect(down, f32x4.sub(bent, ground), f32x4.le(layer, half));
    }
    v128.store(out + at, f32x4.add(own, f32x4.mul(pull, room)));
  }
}

/** out[i] = the lesser of a[i] and b[i]; out may be a where b lies behind it. */
export function leastRow(out: usize, a: usize, b: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, f32x4.pmin(v128.load(a + at), v128.load(b + at)));
  }
}

/** out[i] = the greater of a[i] and b[i]; out may be a where b lies behind it. */
export function mostRow(out: usize, a: usize, b: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    v128.store(out + at, f32x4.pmax(v128.load(a + at), v128.load(b + at)));
  }
}

/**
 * Holds a row between `least` less `dark` and `most` plus `light`, in place, and lays it over what there was before by
 * share x limits.
 */
export function holdRow(
  out: usize,
  before: usize,
  limits: usize,
  least: usize,
  most: usize,
  dark: f32,
  light: f32,
  share: f32,
  n: i32,
): void {
  const below = f32x4.splat(dark);
  const above = f32x4.splat(light);
  const part = f32x4.splat(share);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const was = v128.load(before + at);
    const low = f32x4.sub(v128.load(least + at), below);
    const high = f32x4.add(v128.load(most + at), above);
    const held = f32x4.pmin(f32x4.pmax(v128.load(out + at), low), high);
    const strength = f32x4.mul(part, v128.load(limits + at));
    v128.store(out + at, f32x4.add(was, f32x4.mul(strength, f32x4.sub(held, was))));
  }
}

/** r, g and b each gain what their luminance lacks to `luma`, in place. */
export function recolourRow(r: usize, g: usize, b: usize, luma: usize, n: i32): void {
  const red = f32x4.splat(0.299);
  const green = f32x4.splat(0.587);
  const blue = f32x4.splat(0.114);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const vr = v128.load(r + at);
    const vg = v128.load(g + at);
    const vb = v128.load(b + at);
    // Summed as in luminanceRow: where luminance did not change, nothing does.
    const rg = f32x4.add(f32x4.mul(red, vr), f32x4.mul(green, vg));
    const own = f32x4.add(rg, f32x4.mul(blue, vb));
    const plus = f32x4.sub(v128.load(luma + at), own);
    v128.store(r + at, f32x4.add(vr, plus));
    v128.store(g + at, f32x4.add(vg, plus));
    v128.store(b + at, f32x4.add(vb, plus));
  }
}

/** out[i] = the square of a[i] */
export function squareRow(out: usize, a: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const v = v128.load(a + at);
    v128.store(out + at, f32x4.mul(v, v));
  }
}

/**
 * Local contrast of a row of luminance: amount x (luminance - base) is added, most in middle tones, where base is
 * slope x luminance + level.
 */
export function contrastRow(
  out: usize,
  luma: usize,
  slope: usize,
  level: usize,
  amount: f32,
  n: i32,
): void {
  const four = f32x4.splat(4 * amount);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const own = v128.load(luma + at);
    const base = f32x4.add(f32x4.mul(v128.load(slope + at), own), v128.load(level + at));
    const tone = f32x4.pmin(f32x4.pmax(own, zero), one);
    const weight = f32x4.mul(four, f32x4.mul(tone, f32x4.sub(one, tone)));
    v128.store(out + at, f32x4.add(own, f32x4.mul(weight, f32x4.sub(own, base))));
  }
}

/** 0 below `low`, 1 a `width` above it, 3 t² - 2 t³ between. */
function smoothStep(value: v128, low: v128, perWidth: v128): v128 {
  const t = f32x4.pmin(
    f32x4.pmax(f32x4.mul(f32x4.sub(value, low), perWidth), f32x4.splat(0)),
    f32x4.splat(1),
  );
  const bent = f32x4.sub(f32x4.splat(3), f32x4.mul(f32x4.splat(2), t));
  return f32x4.mul(f32x4.mul(t, t), bent);
}

/**
 * How much each pixel of a row belongs to an edge, 0–1: by its slope, times `times` what a step climbs that is as
 * steep, from half of `hard` to all of it; less by `ramps` where that is little of the range about it.
 * @param above,row,below blurred rows; of `row` the pixels to both sides are read
 */
export function edgeRow(
  out: usize,
  above: usize,
  row: usize,
  below: usize,
  least: usize,
  most: usize,
  times: f32,
  hard: f32,
  ramps: f32,
  n: i32,
): void {
  const scale = f32x4.splat(times / 2);
  const low = f32x4.splat(hard / 2);
  const perHard = f32x4.splat(2 / hard);
  const none = f32x4.splat(0.5);
  const perRamp = f32x4.splat(1 / 0.3);
  const one = f32x4.splat(1);
  const out0 = f32x4.splat(ramps);
  const tiny = f32x4.splat(1e-6);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const across = f32x4.sub(v128.load(row + at + 4), v128.load(row + at - 4));
    const down = f32x4.sub(v128.load(below + at), v128.load(above + at));
    const square = f32x4.add(f32x4.mul(across, across), f32x4.mul(down, down));
    const climb = f32x4.mul(scale, f32x4.sqrt(square));
    const range = f32x4.pmax(f32x4.sub(v128.load(most + at), v128.load(least + at)), tiny);
    const steep = smoothStep(f32x4.div(climb, range), none, perRamp);
    const left = f32x4.sub(one, f32x4.mul(out0, f32x4.sub(one, steep)));
    v128.store(out + at, f32x4.mul(smoothStep(climb, low, perHard), left));
  }
}

/** out[i] = luma[i] + amount x mask[i] x (luma[i] - soft[i]) */
export function maskedRow(
  out: usize,
  luma: usize,
  soft: usize,
  mask: usize,
  amount: f32,
  n: i32,
): void {
  const times = f32x4.splat(amount);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    const own = v128.load(luma + at);
    const difference = f32x4.sub(own, v128.load(soft + at));
    const strength = f32x4.mul(times, v128.load(mask + at));
    v128.store(out + at, f32x4.add(own, f32x4.mul(strength, difference)));
  }
}
