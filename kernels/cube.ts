// Colours by a cube of them: tetrahedral interpolation (Kasson, Nin, Plouffe and Hafner, 1995). All four results of a
// node lie in one vector.

/** A value as its place among nodes: which of them it follows, and how far behind it. */
function placed(value: f32, steps: f32): f32 {
  return min(max(value, 0), 1) * steps;
}

/**
 * Four planes of n values each, `stride` bytes apart from `out` on, of three planes of 0-1.
 * @param cube nodes of four floats: `size` for each of the three, the last one's next to each other
 */
export function cube4(
  out: usize,
  stride: usize,
  r: usize,
  g: usize,
  b: usize,
  cube: usize,
  size: i32,
  n: i32,
): void {
  const steps = <f32>(size - 1);
  const most = size - 2;
  const one: usize = 16;
  const row = one * <usize>size;
  const layer = row * <usize>size;
  for (let i = 0; i < n; i++) {
    const at = (<usize>i) << 2;
    const px = placed(load<f32>(r + at), steps);
    const py = placed(load<f32>(g + at), steps);
    const pz = placed(load<f32>(b + at), steps);
    const ix = min(<i32>px, most);
    const iy = min(<i32>py, most);
    const iz = min(<i32>pz, most);
    const x = px - <f32>ix;
    const y = py - <f32>iy;
    const z = pz - <f32>iz;
    const node = cube + <usize>ix * layer + <usize>iy * row + <usize>iz * one;
    // From the node nearest to black along the axes in the order of how far the colour lies along each.
    let first: usize, second: usize;
    let high: f32, middle: f32, low: f32;
    if (x >= y) {
      if (y >= z) {
        first = layer;
        second = layer + row;
        high = x;
        middle = y;
        low = z;
      } else if (x >= z) {
        first = layer;
        second = layer + one;
        high = x;
        middle = z;
        low = y;
      } else {
        first = one;
        second = one + layer;
        high = z;
        middle = x;
        low = y;
      }
    } else if (x >= z) {
      first = row;
      second = row + layer;
      high = y;
      middle = x;
      low = z;
    } else if (y >= z) {
      first = row;
      second = row + one;
      high = y;
      middle = z;
      low = x;
    } else {
      first = one;
      second = one + row;
      high = z;
      middle = y;
      low = x;
    }
    const sum = f32x4.add(
      f32x4.add(
        f32x4.mul(f32x4.splat(1 - high), v128.load(node)),
        f32x4.mul(f32x4.splat(high - middle), v128.load(node + first)),
      ),
      f32x4.add(
        f32x4.mul(f32x4.splat(middle - low), v128.load(node + second)),
        f32x4.mul(f32x4.splat(low), v128.load(node + layer + row + one)),
      ),
    );
    store<f32>(out + at, f32x4.extract_lane(sum, 0));
    store<f32>(out + stride + at, f32x4.extract_lane(sum, 1));
    store<f32>(out + 2 * stride + at, f32x4.extract_lane(sum, 2));
    store<f32>(out + 3 * stride + at, f32x4.extract_lane(sum, 3));
  }
}
