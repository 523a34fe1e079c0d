// Convolutions of 3 x 3 for networks, four rows at a time by fewer multiplications: three weights of
// a column on four rows are six products (the minimal filtering F(4, 3) of Winograd 1980, as Lavin
// & Gray 2016 use it for networks); along the rows they are taken as they stand. Sums are in one
// fixed order for every pixel.

/**
 * Six mixed rows of each of `channels` from the six rows that lie about four.
 * @param to [6][channel] rows of `length` bytes
 * @param from the row above the four, of the first channel
 * @param row,plane bytes from a row to the next, and from a channel to the next
 */
export function mixRows(
  to: usize,
  from: usize,
  row: usize,
  plane: usize,
  channels: i32,
  length: usize,
): void {
  const part = length * channels;
  const two = f32x4.splat(2);
  const four = f32x4.splat(4);
  const five = f32x4.splat(5);
  for (let c = 0; c < channels; c++) {
    for (let x: usize = 0; x < length; x += 16) {
      const at = from + x;
      const d0 = v128.load(at);
      const d1 = v128.load(at + row);
      const d2 = v128.load(at + row * 2);
      const d3 = v128.load(at + row * 3);
      const d4 = v128.load(at + row * 4);
      const d5 = v128.load(at + row * 5);
      const put = to + x;
      v128.store(put, f32x4.add(f32x4.sub(f32x4.mul(four, d0), f32x4.mul(five, d2)), d4));
      const even = f32x4.sub(d4, f32x4.mul(four, d2));
      const odd = f32x4.sub(d3, f32x4.mul(four, d1));
      v128.store(put + part, f32x4.add(even, odd));
      v128.store(put + part * 2, f32x4.sub(even, odd));
      const near = f32x4.sub(d4, d2);
      const far = f32x4.mul(two, f32x4.sub(d3, d1));
      v128.store(put + part * 3, f32x4.add(near, far));
      v128.store(put + part * 4, f32x4.sub(near, far));
      v128.store(
        put + part * 5,
        f32x4.add(f32x4.sub(f32x4.mul(four, d1), f32x4.mul(five, d3)), d5),
      );
    }
    to += length;
    from += plane;
  }
}

/**
 * Four rows of `outputs` channels (a multiple of 4) from mixed rows of `inputs` channels. Pixels come
 * eight at a time: mixed rows are read up to 9 floats, results written up to 7 floats past n.
 * @param mixed what `mixRows` made, its rows one pixel to the left of the result
 * @param weights mixed as well: [output / 4][6][input][x][4]; then as many biases as outputs
 * @param slope what negative values are multiplied by
 * @param plus rows that are added to the result, of the same form as `out`, or 0
 * @param work 768 bytes
 */
export function convolveRows(
  out: usize,
  mixed: usize,
  length: usize,
  row: usize,
  plane: usize,
  weights: usize,
  inputs: i32,
  outputs: i32,
  slope: f32,
  plus: usize,
  work: usize,
  n: i32,
): void {
  const part = length * inputs;
  const groups = outputs >> 2;
  const groupBytes = <usize>inputs * 18 * 16;
  const biases = weights + <usize>groups * groupBytes;
  for (let group: usize = 0; group < <usize>groups; group++) {
    const to = out + ((group * plane) << 2);
    const adding = plus + ((group * plane) << 2);
    for (let x = 0; x < n; x += 8) {
      const at = (<usize>x) << 2;
      let w = weights + group * groupBytes;
      for (let j: usize = 0; j < 6; j++) {
        let a0 = f32x4.splat(0);
        let a1 = a0;
        let b0 = a0;
        let b1 = a0;
        let c0 = a0;
        let c1 = a0;
        let d0 = a0;
        let d1 = a0;
        let line = mixed + j * part + at;
        for (let i = 0; i < inputs; i++) {
          let p = v128.load(line);
          let q = v128.load(line, 16);
          let k = v128.load32_splat(w);
          a0 = f32x4.add(a0, f32x4.mul(p, k));
          a1 = f32x4.add(a1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 4);
          b0 = f32x4.add(b0, f32x4.mul(p, k));
          b1 = f32x4.add(b1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 8);
          c0 = f32x4.add(c0, f32x4.mul(p, k));
          c1 = f32x4.add(c1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 12);
          d0 = f32x4.add(d0, f32x4.mul(p, k));
          d1 = f32x4.add(d1, f32x4.mul(q, k));
          p = v128.load(line, 4);
          q = v128.load(line, 20);
          k = v128.load32_splat(w, 16);
          a0 = f32x4.add(a0, f32x4.mul(p, k));
          a1 = f32x4.add(a1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 20);
          b0 = f32x4.add(b0, f32x4.mul(p, k));
          b1 = f32x4.add(b1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 24);
          c0 = f32x4.add(c0, f32x4.mul(p, k));
          c1 = f32x4.add(c1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 28);
          d0 = f32x4.add(d0, f32x4.mul(p, k));
          d1 = f32x4.add(d1, f32x4.mul(q, k));
          p = v128.load(line, 8);
          q = v128.load(line, 24);
          k = v128.load32_splat(w, 32);
          a0 = f32x4.add(a0, f32x4.mul(p, k));
          a1 = f32x4.add(a1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 36);
          b0 = f32x4.add(b0, f32x4.mul(p, k));
          b1 = f32x4.add(b1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 40);
          c0 = f32x4.add(c0, f32x4.mul(p, k));
          c1 = f32x4.add(c1, f32x4.mul(q, k));
          k = v128.load32_splat(w, 44);
          d0 = f32x4.add(d0, f32x4.mul(p, k));
          d1 = f32x4.add(d1, f32x4.mul(q, k));
          w += 48;
          line += length;
        }
        const put = work + (j << 7);
        v128.store(put, a0);
        v128.store(put, a1, 16);
        v128.store(put, b0, 32);
        v128.store(put, b1, 48);
        v128.store(put, c0, 64);
        v128.store(put, c1, 80);
        v128.store(put, d0, 96);
        v128.store(put, d1, 112);
      }
      for (let k: usize = 0; k < 8; k++) {
        const channel = k >> 1;
        const there = channel * plane + at + ((k & 1) << 4);
        unmix(
          to + there,
          adding + there,
          row,
          plus,
          work + (k << 4),
          biases + (((group << 2) + channel) << 2),
          slope,
        );
      }
    }
  }
}

/** Four rows of four pixels from six sums: mixed back, with bias, bent, and added to. */
function unmix(
  to: usize,
  adding: usize,
  row: usize,
  plus: usize,
  sums: usize,
  bias: usize,
  slope: f32,
): void {
  const m1 = v128.load(sums, 128);
  const m2 = v128.load(sums, 256);
  const m3 = v128.load(sums, 384);
  const m4 = v128.load(sums, 512);
  const b = v128.load32_splat(bias);
  const near = f32x4.add(m1, m2);
  const nearOff = f32x4.sub(m1, m2);
  const far = f32x4.add(m3, m4);
  const farOff = f32x4.sub(m3, m4);
  const y0 = f32x4.add(f32x4.add(v128.load(sums), near), far);
  const y1 = f32x4.add(nearOff, f32x4.mul(f32x4.splat(2), farOff));
  const y2 = f32x4.add(near, f32x4.mul(f32x4.splat(4), far));
  const y3 = f32x4.add(f32x4.add(nearOff, f32x4.mul(f32x4.splat(8), farOff)), v128.load(sums, 640));
  bend(to, adding, plus, f32x4.add(y0, b), slope);
  bend(to + row, adding + row, plus, f32x4.add(y1, b), slope);
  bend(to + row * 2, adding + row * 2, plus, f32x4.add(y2, b), slope);
  bend(to + row * 3, adding + row * 3, plus, f32x4.add(y3, b), slope);
}

function bend(to: usize, adding: usize, plus: usize, value: v128, slope: f32): void {
  let bent = f32x4.max(value, f32x4.mul(value, f32x4.splat(slope)));
  if (plus) bent = f32x4.add(bent, v128.load(adding));
  v128.store(to, bent);
}
