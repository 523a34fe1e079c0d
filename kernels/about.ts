// Kernels that weigh the pixels about a place by weights of its own: resampling at a slant, round
// resampling, smoothing. Pixels are packed four floats each, red, green, blue and a one, so that a pixel
// is a vector and the weights are summed with it; sums are kept in single precision, row by row.
// Pointers are bytes into memory.
// Tables hold pairs of floats: a value, and how far it is from there to the next.
// Weights of a row of pixels are written in whole vectors, up to 12 bytes past their end.

/** A place, and the pixels that it looks at. */
let x: f64 = 0;
let y: f64 = 0;
let left: i32 = 0;
let top: i32 = 0;
let columns: i32 = 0;
let rows: i32 = 0;

/** The pixels within `support` of a place, as far as there are any. */
function lookAbout(centre: usize, support: f64, width: i32, height: i32): void {
  x = load<f64>(centre);
  y = load<f64>(centre, 8);
  left = max<i32>(<i32>Math.floor(x - support) + 1, 0);
  top = max<i32>(<i32>Math.floor(y - support) + 1, 0);
  columns = min<i32>(<i32>Math.ceil(x + support) - 1, width - 1) - left + 1;
  rows = min<i32>(<i32>Math.ceil(y + support) - 1, height - 1) - top + 1;
}

/** Values of a table at four places between its entries. */
function between(table: usize, places: v128): v128 {
  const whole = i32x4.trunc_sat_f32x4_s(places);
  const rest = f32x4.sub(places, f32x4.convert_i32x4_s(whole));
  const p0 = table + ((<usize>i32x4.extract_lane(whole, 0)) << 3);
  const p1 = table + ((<usize>i32x4.extract_lane(whole, 1)) << 3);
  const p2 = table + ((<usize>i32x4.extract_lane(whole, 2)) << 3);
  const p3 = table + ((<usize>i32x4.extract_lane(whole, 3)) << 3);
  const a = v128.load64_lane(p1, v128.load64_zero(p0), 1);
  const b = v128.load64_lane(p3, v128.load64_zero(p2), 1);
  const values = i32x4.shuffle(a, b, 0, 2, 4, 6);
  const ways = i32x4.shuffle(a, b, 1, 3, 5, 7);
  return f32x4.add(values, f32x4.mul(rest, ways));
}

/** Sum of `count` packed pixels, each times its weight: every other one for itself, then both. */
function weighPixels(pixels: usize, weights: usize, count: i32): v128 {
  let even = f32x4.splat(0);
  let odd = even;
  for (let k = 1; k < count; k += 2) {
    even = f32x4.add(even, f32x4.mul(v128.load32_splat(weights), v128.load(pixels)));
    odd = f32x4.add(odd, f32x4.mul(v128.load32_splat(weights, 4), v128.load(pixels, 16)));
    weights += 8;
    pixels += 32;
  }
  if (count & 1) even = f32x4.add(even, f32x4.mul(v128.load32_splat(weights), v128.load(pixels)));
  return f32x4.add(even, odd);
}

/** A sum over the sum of its weights. */
function mean(sum: v128): v128 {
  return f32x4.div(sum, f32x4.splat(f32x4.extract_lane(sum, 3)));
}

/** A kernel's weights of `count` pixels from `offset` on, in pixels from its middle. */
function weighLine(weights: usize, table: usize, offset: f32, count: i32, scale: f32): void {
  let at = f32x4.add(f32x4.splat(offset), f32x4(0, 1, 2, 3));
  const last = f32x4.splat(offset + <f32>(count - 1));
  for (let k = 0; k < count; k += 4) {
    // Past the end the table need not go on: the last weight again.
    const places = f32x4.mul(f32x4.abs(f32x4.min(at, last)), f32x4.splat(scale));
    v128.store(weights, between(table, places));
    at = f32x4.add(at, f32x4.splat(4));
    weights += 16;
  }
}

/** A pixel moves by `share` of the way between the four by four about the place. */
function limited(is: v128, pixels: usize, width: i32, height: i32, share: f32): v128 {
  const first = max<i32>(<i32>Math.floor(x) - 1, 0);
  const last = min<i32>(<i32>Math.floor(x) + 2, width - 1);
  const bottom = min<i32>(<i32>Math.floor(y) + 2, height - 1);
  let low = f32x4.splat(f32.MAX_VALUE);
  let high = f32x4.neg(low);
  for (let v = max<i32>(<i32>Math.floor(y) - 1, 0); v <= bottom; v++) {
    let pixel = pixels + ((<usize>(v * width + first)) << 4);
    for (let u = first; u <= last; u++) {
      low = f32x4.min(low, v128.load(pixel));
      high = f32x4.max(high, v128.load(pixel));
      pixel += 16;
    }
  }
  const within = f32x4.min(f32x4.max(is, low), high);
  return f32x4.add(is, f32x4.mul(f32x4.splat(share), f32x4.sub(within, is)));
}

/** A pixel's channels into three rows that lie `plane` bytes apart. */
function unpack(out: usize, plane: usize, pixel: v128): void {
  v128.store32_lane(out, pixel, 0);
  v128.store32_lane(out + plane, pixel, 1);
  v128.store32_lane(out + 2 * plane, pixel, 2);
}

/**
 * out[c][i] = the pixels about centre i, weighed by one kernel along x and along y.
 * @param out three rows, `plane` bytes apart
 * @param centres doubles x, y of n places, in pixels of the packed part of `width` by `height`, within it
 * @param table,scale the kernel from its middle on, entries a pixel
 * @param support pixels on either side
 * @param limit 0 to 1: how far results are drawn back between the pixels next to them
 * @param work 16 support + 64 bytes
 */
export function weighSlanted(
  out: usize,
  plane: usize,
  n: i32,
  centres: usize,
  pixels: usize,
  width: i32,
  height: i32,
  table: usize,
  work: usize,
  support: f64,
  limit: f32,
  scale: f32,
): void {
  const across = work;
  const down = work + (((<usize>Math.ceil(2 * support) + 5) >> 2) << 4);
  for (let i = 0; i < n; i++) {
    lookAbout(centres + ((<usize>i) << 4), support, width, height);
    weighLine(across, table, <f32>(<f64>left - x), columns, scale);
    weighLine(down, table, <f32>(<f64>top - y), rows, scale);
    let sum = f32x4.splat(0);
    let line = pixels + ((<usize>(top * width + left)) << 4);
    for (let r = 0; r < rows; r++) {
      const weight = v128.load32_splat(down + ((<usize>r) << 2));
      sum = f32x4.add(sum, f32x4.mul(weight, weighPixels(line, across, columns)));
      line += (<usize>width) << 4;
    }
    sum = mean(sum);
    if (limit > 0) sum = limited(sum, pixels, width, height, limit);
    unpack(out, plane, sum);
    out += 4;
  }
}

/**
 * out[c][i] = the pixels about centre i, weighed by how far they are from it: a table over
 * xx dx² + xy dx dy + yy dy², zero from `last` on. The rest as in `weighSlanted`.
 */
export function weighJinc(
  out: usize,
  plane: usize,
  n: i32,
  centres: usize,
  pixels: usize,
  width: i32,
  height: i32,
  table: usize,
  work: usize,
  support: f64,
  limit: f32,
  last: f32,
  xx: f32,
  xy: f32,
  yy: f32,
): void {
  const farthest = f32x4.splat(last);
  for (let i = 0; i < n; i++) {
    lookAbout(centres + ((<usize>i) << 4), support, width, height);
    const offset = f32x4.add(f32x4.splat(<f32>(<f64>left - x)), f32x4(0, 1, 2, 3));
    let sum = f32x4.splat(0);
    let line = pixels + ((<usize>(top * width + left)) << 4);
    let dy = <f32>(<f64>top - y);
    for (let r = 0; r < rows; r++) {
      // xx dx² + xy dx dy + yy dy² = (xx dx + xy dy) dx + yy dy²
      const slope = f32x4.splat(xy * dy);
      const level = f32x4.splat(yy * dy * dy);
      let dx = offset;
      let put = work;
      for (let k = 0; k < columns; k += 4) {
        const square = f32x4.mul(f32x4.add(f32x4.mul(f32x4.splat(xx), dx), slope), dx);
        const places = f32x4.max(f32x4.add(square, level), f32x4.splat(0));
        v128.store(put, between(table, f32x4.min(places, farthest)));
        dx = f32x4.add(dx, f32x4.splat(4));
        put += 16;
      }
      sum = f32x4.add(sum, weighPixels(line, work, columns));
      line += (<usize>width) << 4;
      dy += 1;
    }
    sum = mean(sum);
    if (limit > 0) sum = limited(sum, pixels, width, height, limit);
    unpack(out, plane, sum);
    out += 4;
  }
}

/**
 * out[c][i] = the pixels about pixel `column` + i of a row, weighed by how near they are and how little
 * they differ from it in `luma`.
 * @param out three rows, `plane` bytes apart
 * @param luma a float a pixel, as wide as the pixels
 * @param window weights by nearness, (2 reach + 1)² of them
 * @param table weights by difference, over squares of differences times `scale`; zero from `last` on
 * @param work 8 reach + 20 bytes
 */
export function smoothRow(
  out: usize,
  plane: usize,
  n: i32,
  pixels: usize,
  luma: usize,
  width: i32,
  height: i32,
  column: i32,
  row: i32,
  window: usize,
  reach: i32,
  table: usize,
  scale: f32,
  last: f32,
  work: usize,
): void {
  const farthest = f32x4.splat(last);
  const side = 2 * reach + 1;
  const above = max<i32>(row - reach, 0);
  const below = min<i32>(row + reach, height - 1);
  for (let i = 0; i < n; i++, column++) {
    const here = v128.load32_splat(luma + ((<usize>(row * width + column)) << 2));
    const first = max<i32>(column - reach, 0);
    const count = min<i32>(column + reach, width - 1) - first + 1;
    let sum = f32x4.splat(0);
    for (let v = above; v <= below; v++) {
      const at = v * width + first;
      let near = window + ((<usize>((v - row + reach) * side + first - column + reach)) << 2);
      let light = luma + ((<usize>at) << 2);
      let put = work;
      for (let k = 0; k < count; k += 4) {
        const off = f32x4.sub(v128.load(light), here);
        const places = f32x4.mul(f32x4.mul(off, off), f32x4.splat(scale));
        const bell = between(table, f32x4.min(places, farthest));
        v128.store(put, f32x4.mul(v128.load(near), bell));
        light += 16;
        near += 16;
        put += 16;
      }
      sum = f32x4.add(sum, weighPixels(pixels + ((<usize>at) << 4), work, count));
    }
    unpack(out, plane, mean(sum));
    out += 4;
  }
}
