// Sums over the square of pixels about a pixel, each with a weight of its own.

/**
 * out[i] = the sum over the rows and columns of a square of `side` x `side` taps of tap x value, in their order. Rows of
 * values lie a stride of bytes after each other; `from` is the square's upper left corner about the first pixel.
 * @param n a multiple of 16; rows may be read up to 15 floats past what they need
 */
export function tapsRow(
  out: usize,
  from: usize,
  stride: usize,
  taps: usize,
  side: i32,
  n: i32,
): void {
  for (let i = 0; i < n; i += 16) {
    const to = out + ((<usize>i) << 2);
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    let tap = taps;
    let row = from + ((<usize>i) << 2);
    for (let y = 0; y < side; y++) {
      let at = row;
      for (let x = 0; x < side; x++) {
        const t = v128.load32_splat(tap);
        a = f32x4.add(a, f32x4.mul(t, v128.load(at)));
        b = f32x4.add(b, f32x4.mul(t, v128.load(at, 16)));
        c = f32x4.add(c, f32x4.mul(t, v128.load(at, 32)));
        d = f32x4.add(d, f32x4.mul(t, v128.load(at, 48)));
        tap += 4;
        at += 4;
      }
      row += stride;
    }
    v128.store(to, a);
    v128.store(to, b, 16);
    v128.store(to, c, 32);
    v128.store(to, d, 48);
  }
}

/** out[i] = luma[i] + as much of change[i] as its power about it stands out from `least` */
export function restoreRow(
  out: usize,
  luma: usize,
  change: usize,
  power: usize,
  least: f32,
  n: i32,
): void {
  const noise = f32x4.splat(least);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let i = 0; i < n; i += 4) {
    const at = (<usize>i) << 2;
    // Where there is no power at all there is no change either.
    const share = f32x4.pmax(zero, f32x4.sub(one, f32x4.div(noise, v128.load(power + at))));
    const plus = f32x4.mul(v128.load(change + at), share);
    v128.store(out + at, f32x4.add(v128.load(luma + at), plus));
  }
}
