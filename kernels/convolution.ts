// Convolutions of 3 x 3 for networks, in whole numbers: channels lie in pairs of 16-bit numbers, sums
// have 32 bits. Two rows at a time take fewer multiplications: three weights of a column on two rows
// are four products (the minimal filtering F(2, 3) of Winograd 1980, as Lavin & Gray 2016 use it for
// networks); along the rows they are taken as they stand. Nothing is rounded on the way, so a sum is
// the same whatever is computed with it, and may pass beyond its bits as long as it comes back.

/** Values are kept within this, so that two of them may be added. */
const LIMIT: i32 = 16383;

/**
 * Four mixed rows of each pair of channels from the four rows that lie about two.
 * @param to [4][pair] rows of `length` bytes
 * @param from the row above the two, of the first pair
 * @param row,plane bytes from a row to the next, and from a pair to the next
 */
export function mixRows(
  to: usize,
  from: usize,
  row: usize,
  plane: usize,
  pairs: i32,
  length: usize,
): void {
  const part = length * pairs;
  for (let c = 0; c < pairs; c++) {
    for (let x: usize = 0; x < length; x += 16) {
      const at = from + x;
      const d0 = v128.load(at);
      const d1 = v128.load(at + row);
      const d2 = v128.load(at + row * 2);
      const d3 = v128.load(at + row * 3);
      const put = to + x;
      v128.store(put, i16x8.sub(d0, d2));
      v128.store(put + part, i16x8.add(d1, d2));
      v128.store(put + part * 2, i16x8.sub(d2, d1));
      v128.store(put + part * 3, i16x8.sub(d1, d3));
    }
    to += length;
    from += plane;
  }
}

/** Sums of a channel on the upper of two rows, and on the lower, four pixels of each. */
function upper(at: usize): v128 {
  return i32x4.add(i32x4.add(v128.load(at), v128.load(at, 128)), v128.load(at, 256));
}

function lower(at: usize): v128 {
  return i32x4.sub(i32x4.sub(v128.load(at, 128), v128.load(at, 256)), v128.load(at, 384));
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
 * Two rows of `outputs` channels (a multiple of 4) from mixed rows of pairs of channels. Pixels come
 * eight at a time: mixed rows are read up to 9 pixels, results written up to 7 pixels past n.
 * @param times 1 for pairs of channels again; 2 or 4 for channels spread over squares of so many
 *   pixels a side in rows of floats: of the upper small row all rows of the first plane, of the second
 *   and so on, then those of the lower one
 * @param mixed what `mixRows` made, one pixel to the left of the result
 * @param row,plane bytes from a row of the result to the next, and from a pair to the next
 * @param weights mixed as well: [output / 4][4][pair][x][4]; then for every four outputs as many
 *   scales and biases, as floats
 * @param slope what negative values are multiplied by, where they are not spread
 * @param plus rows that are added to the result, of the same form as `out`, or 0
 * @param work 512 bytes
 */
export function convolveRows(
  out: usize,
  times: usize,
  mixed: usize,
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
  const mixedWeights = <usize>pairs * 48;
  // Rows of floats that four channels fill, and all of them.
  const filled = row * (times === 4 ? 1 : 2);
  const all = groups * filled;
  const slopes = f32x4.splat(slope);
  for (let group: usize = 0; group < groups; group++) {
    const facts = weights + groups * mixedWeights * 4 + (group << 5);
    for (let x = 0; x < n; x += 8) {
      const at = (<usize>x) << 2;
      let w = weights + group * mixedWeights * 4;
      for (let j: usize = 0; j < 4; j++) {
        let line = mixed + j * length * pairs + at;
        const put = work + (j << 7);
        // Eight sums for one of the mixed rows: four outputs, eight pixels.
        let a0 = i32x4.splat(0);
        let a1 = a0;
        let b0 = a0;
        let b1 = a0;
        let c0 = a0;
        let c1 = a0;
        let d0 = a0;
        let d1 = a0;
        for (let i = 0; i < pairs; i++) {
          for (let x: usize = 0; x < 3; x++) {
            const p = v128.load(line + (x << 2));
            const q = v128.load(line + (x << 2), 16);
            const at = w + (x << 4);
            let k = v128.load32_splat(at);
            a0 = i32x4.add(a0, i32x4.dot_i16x8_s(p, k));
            a1 = i32x4.add(a1, i32x4.dot_i16x8_s(q, k));
            k = v128.load32_splat(at, 4);
            b0 = i32x4.add(b0, i32x4.dot_i16x8_s(p, k));
            b1 = i32x4.add(b1, i32x4.dot_i16x8_s(q, k));
            k = v128.load32_splat(at, 8);
            c0 = i32x4.add(c0, i32x4.dot_i16x8_s(p, k));
            c1 = i32x4.add(c1, i32x4.dot_i16x8_s(q, k));
            k = v128.load32_splat(at, 12);
            d0 = i32x4.add(d0, i32x4.dot_i16x8_s(p, k));
            d1 = i32x4.add(d1, i32x4.dot_i16x8_s(q, k));
          }
          w += 48;
          line += length;
        }
        v128.store(put, a0);
        v128.store(put, b0, 16);
        v128.store(put, c0, 32);
        v128.store(put, d0, 48);
        v128.store(put, a1, 64);
        v128.store(put, b1, 80);
        v128.store(put, c1, 96);
        v128.store(put, d1, 112);
      }
      for (let k: usize = 0; k < 2; k++) {
        const from = work + (k << 6);
        const here = at + (k << 4);
        const a = valued(upper(from), facts);
        const b = valued(upper(from + 16), facts + 4);
        const c = valued(upper(from + 32), facts + 8);
        const d = valued(upper(from + 48), facts + 12);
        const e = valued(lower(from), facts);
        const f = valued(lower(from + 16), facts + 4);
        const g = valued(lower(from + 32), facts + 8);
        const h = valued(lower(from + 48), facts + 12);
        if (times === 1) {
          const there = here + group * plane * 2;
          lay(out + there, plus, there, a, b, slopes);
          lay(out + there + plane, plus, there + plane, c, d, slopes);
          lay(out + there + row, plus, there + row, e, f, slopes);
          lay(out + there + plane + row, plus, there + plane + row, g, h, slopes);
          continue;
        }
        const to = out + group * filled + here * times;
        if (times === 4) {
          spreadFour(to, a, b, c, d);
          spreadFour(to + all, e, f, g, h);
        } else {
          spreadTwo(to, row, a, b, c, d);
          spreadTwo(to + all, row, e, f, g, h);
        }
      }
    }
  }
}
