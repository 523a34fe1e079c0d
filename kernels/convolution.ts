// Convolutions of 3 x 3 for networks, in whole numbers: channels lie in pairs of 16-bit numbers, sums
// have 32 bits. Squares of two by two pixels take fewer multiplications: nine weights on four pixels
// are sixteen products (the minimal filtering F(2 x 2, 3 x 3) of Winograd 1980, as Lavin & Gray 2016
// use it for networks). Nothing is rounded on the way, so a sum is the same whatever is computed with
// it, and may pass beyond its bits as long as it comes back.

/** Values are kept within this, so that four of them may be added. */
const LIMIT: i32 = 8191;

/**
 * Mixes the four rows that lie about two, of each pair of channels, for squares of two by two pixels.
 * @param to [4 of rows][4 of columns][pair], each of so many bytes a row as there are squares, times 4
 * @param from the row above the two, one pixel to the left, of the first pair
 * @param row,plane bytes from a row to the next, and from a pair to the next
 * @param n pixels, a multiple of eight; of each row up to three more are read
 */
export function winogradInput(
  to: usize,
  from: usize,
  row: usize,
  plane: usize,
  pairs: i32,
  n: i32,
): void {
  const length = <usize>n * 2;
  const part = length * pairs;
  for (let c = 0; c < pairs; c++) {
    for (let x: usize = 0; x < length; x += 16) {
      const at = from + x * 2;
      for (let j: usize = 0; j < 4; j++) {
        // Of four rows: 0 - 2, 1 + 2, 2 - 1, 1 - 3.
        const one = at + row * (j === 0 ? 0 : j === 2 ? 2 : 1);
        const other = at + row * (j === 2 ? 1 : j === 3 ? 3 : 2);
        const near0 = mixed(v128.load(one), v128.load(other), j);
        const near1 = mixed(v128.load(one, 16), v128.load(other, 16), j);
        const far0 = mixed(v128.load(one, 8), v128.load(other, 8), j);
        const far1 = mixed(v128.load(one, 24), v128.load(other, 24), j);
        const d0 = i32x4.shuffle(near0, near1, 0, 2, 4, 6);
        const d1 = i32x4.shuffle(near0, near1, 1, 3, 5, 7);
        const d2 = i32x4.shuffle(far0, far1, 0, 2, 4, 6);
        const d3 = i32x4.shuffle(far0, far1, 1, 3, 5, 7);
        const put = to + x + j * 4 * part;
        v128.store(put, i16x8.sub(d0, d2));
        v128.store(put + part, i16x8.add(d1, d2));
        v128.store(put + part * 2, i16x8.sub(d2, d1));
        v128.store(put + part * 3, i16x8.sub(d1, d3));
      }
    }
    to += length;
    from += plane;
  }
}

function mixed(one: v128, other: v128, j: usize): v128 {
  return j === 1 ? i16x8.add(one, other) : i16x8.sub(one, other);
}

/** Sums of a column of squares on the upper of two rows, and on the lower. @param at of its four */
function upper(at: usize): v128 {
  return i32x4.add(i32x4.add(v128.load(at), v128.load(at, 512)), v128.load(at, 1024));
}

function lower(at: usize): v128 {
  return i32x4.sub(i32x4.sub(v128.load(at, 512), v128.load(at, 1024)), v128.load(at, 1536));
}

/** Even and odd pixels from sums of four columns. */
function even(c0: v128, c1: v128, c2: v128): v128 {
  return i32x4.add(i32x4.add(c0, c1), c2);
}

function odd(c1: v128, c2: v128, c3: v128): v128 {
  return i32x4.sub(i32x4.sub(c1, c2), c3);
}

/**
 * Eight pixels of a row as numbers, from sums of sixteen products.
 * @param sums [4 of rows][4 of columns], 128 bytes apart
 * @param facts the channel's scale and, 16 bytes on, its bias
 */
function unmix(to: usize, sums: usize, down: usize, facts: usize): void {
  const c0 = down ? lower(sums) : upper(sums);
  const c1 = down ? lower(sums + 128) : upper(sums + 128);
  const c2 = down ? lower(sums + 256) : upper(sums + 256);
  const c3 = down ? lower(sums + 384) : upper(sums + 384);
  const e = even(c0, c1, c2);
  const o = odd(c1, c2, c3);
  v128.store(to, valued(i32x4.shuffle(e, o, 0, 4, 1, 5), facts));
  v128.store(to, valued(i32x4.shuffle(e, o, 2, 6, 3, 7), facts), 16);
}

/** A sum as a number: times the channel's scale, plus its bias. @param facts four scales, four biases */
function valued(sum: v128, facts: usize): v128 {
  return f32x4.add(
    f32x4.mul(f32x4.convert_i32x4_s(sum), v128.load32_splat(facts)),
    v128.load32_splat(facts, 16),
  );
}

function bent(value: v128, slope: v128): v128 {
  return f32x4.max(value, f32x4.mul(value, slope));
}

/** To whole numbers within the limit. */
function rounded(value: v128): v128 {
  const whole = i32x4.trunc_sat_f32x4_s(f32x4.nearest(value));
  return i32x4.max_s(i32x4.min_s(whole, i32x4.splat(LIMIT)), i32x4.splat(-LIMIT));
}

/** Four pixels of a pair of channels: bent, added to `plus` at a place, rounded and laid together. */
function lay(to: usize, plus: usize, at: usize, even: v128, odd: v128, slope: v128): void {
  let a = bent(even, slope);
  let b = bent(odd, slope);
  if (plus) {
    const both = v128.load(plus + at);
    a = f32x4.add(a, f32x4.convert_i32x4_s(i32x4.shr_s(i32x4.shl(both, 16), 16)));
    b = f32x4.add(b, f32x4.convert_i32x4_s(i32x4.shr_s(both, 16)));
  }
  const low = v128.and(rounded(a), i32x4.splat(0xffff));
  v128.store(to, v128.or(low, i32x4.shl(rounded(b), 16)));
}

/** Adds rows of values to others, within the limit. */
export function addRows(to: usize, from: usize, length: usize): void {
  const most = i16x8.splat(<i16>LIMIT);
  const least = i16x8.splat(-(<i16>LIMIT));
  for (let x: usize = 0; x < length; x += 16) {
    const sum = i16x8.add_sat_s(v128.load(to + x), v128.load(from + x));
    v128.store(to + x, i16x8.max_s(i16x8.min_s(sum, most), least));
  }
}

/** Four pixels of four channels as sixteen of a row, each channel every fourth of them. */
function spreadFour(to: usize, a: v128, b: v128, c: v128, d: v128): void {
  const ab = i32x4.shuffle(a, b, 0, 4, 1, 5);
  const cd = i32x4.shuffle(c, d, 0, 4, 1, 5);
  const abLast = i32x4.shuffle(a, b, 2, 6, 3, 7);
  const cdLast = i32x4.shuffle(c, d, 2, 6, 3, 7);
  v128.store(to, i64x2.shuffle(ab, cd, 0, 2));
  v128.store(to, i64x2.shuffle(ab, cd, 1, 3), 16);
  v128.store(to, i64x2.shuffle(abLast, cdLast, 0, 2), 32);
  v128.store(to, i64x2.shuffle(abLast, cdLast, 1, 3), 48);
}

/** Four pixels of four channels as eight of two rows, two channels a row in turn. */
function spreadTwo(to: usize, row: usize, a: v128, b: v128, c: v128, d: v128): void {
  v128.store(to, i32x4.shuffle(a, b, 0, 4, 1, 5));
  v128.store(to, i32x4.shuffle(a, b, 2, 6, 3, 7), 16);
  v128.store(to + row, i32x4.shuffle(c, d, 0, 4, 1, 5));
  v128.store(to + row, i32x4.shuffle(c, d, 2, 6, 3, 7), 16);
}

/**
 * Two rows of `outputs` channels (a multiple of 4) from mixed squares of pairs of channels. Pixels come
 * sixteen at a time: results are written up to 15 pixels past n.
 * @param times 1 for pairs of channels again; 2 or 4 for channels spread over squares of so many
 *   pixels a side in rows of floats: of the upper small row all rows of the first plane, of the second
 *   and so on, then those of the lower one
 * @param squares what `winogradInput` made
 * @param length bytes of one of its rows
 * @param row,plane bytes from a row of the result to the next, and from a pair to the next
 * @param weights mixed as well: [output / 4][16][pair][4]; then for every four outputs as many scales
 *   and biases, as floats
 * @param slope what negative values are multiplied by, where they are not spread
 * @param plus rows that are added to the result, of the same form as `out`, or 0
 * @param work 2560 bytes
 */
export function convolveRows(
  out: usize,
  times: usize,
  squares: usize,
  length: usize,
  row: usize,
  plane: usize,
  weights: usize,
  pairs: i32,
  outputs: i32,
  slope: f32,
  plus: usize,
  work: usize,
  n: i32,
): void {
  const groups = <usize>(outputs >> 2);
  const own = <usize>pairs * 256;
  // Rows of floats that four channels fill, and all of them.
  const filled = row * (times === 4 ? 1 : 2);
  const all = groups * filled;
  const slopes = f32x4.splat(slope);
  const values = work + 2048;
  for (let group: usize = 0; group < groups; group++) {
    const facts = weights + groups * own + (group << 5);
    for (let x = 0; x < n; x += 16) {
      const at = (<usize>x) << 1;
      let w = weights + group * own;
      let line = squares + at;
      for (let j: usize = 0; j < 16; j++) {
        // Eight sums for one of the sixteen products: four outputs, eight squares.
        let a0 = i32x4.splat(0);
        let a1 = a0;
        let b0 = a0;
        let b1 = a0;
        let c0 = a0;
        let c1 = a0;
        let d0 = a0;
        let d1 = a0;
        for (let i = 0; i < pairs; i++) {
          const p = v128.load(line);
          const q = v128.load(line, 16);
          let k = v128.load32_splat(w);
          a0 = i32x4.add(a0, i32x4.dot_i16x8_s(p, k));
          a1 = i32x4.add(a1, i32x4.dot_i16x8_s(q, k));
          k = v128.load32_splat(w, 4);
          b0 = i32x4.add(b0, i32x4.dot_i16x8_s(p, k));
          b1 = i32x4.add(b1, i32x4.dot_i16x8_s(q, k));
          k = v128.load32_splat(w, 8);
          c0 = i32x4.add(c0, i32x4.dot_i16x8_s(p, k));
          c1 = i32x4.add(c1, i32x4.dot_i16x8_s(q, k));
          k = v128.load32_splat(w, 12);
          d0 = i32x4.add(d0, i32x4.dot_i16x8_s(p, k));
          d1 = i32x4.add(d1, i32x4.dot_i16x8_s(q, k));
          w += 16;
          line += length;
        }
        const put = work + (j << 7);
        v128.store(put, a0);
        v128.store(put, b0, 16);
        v128.store(put, c0, 32);
        v128.store(put, d0, 48);
        v128.store(put, a1, 64);
        v128.store(put, b1, 80);
        v128.store(put, c1, 96);
        v128.store(put, d1, 112);
      }
      for (let k: usize = 0; k < 4; k++) {
        // Eight pixels of either row, of four channels.
        const down = k & 1;
        const here = (at << 1) + ((k >> 1) << 5);
        for (let c: usize = 0; c < 4; c++) {
          unmix(values + (c << 5), work + ((k >> 1) << 6) + (c << 4), down, facts + (c << 2));
        }
        for (let half: usize = 0; half < 32; half += 16) {
          const a = v128.load(values + half);
          const b = v128.load(values + half, 32);
          const c = v128.load(values + half, 64);
          const d = v128.load(values + half, 96);
          if (times === 1) {
            const there = here + half + group * plane * 2 + down * row;
            lay(out + there, plus, there, a, b, slopes);
            lay(out + there + plane, plus, there + plane, c, d, slopes);
            continue;
          }
          const to = out + group * filled + down * all + (here + half) * times;
          if (times === 4) spreadFour(to, a, b, c, d);
          else spreadTwo(to, row, a, b, c, d);
        }
      }
    }
  }
}
