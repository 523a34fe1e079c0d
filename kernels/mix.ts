// Channels mixed place by place, in floats: what a network does with filters of one pixel.

/** Bytes of a vector of four floats. */
const VECTOR: usize = 16;

/**
 * Four outputs as weighted sums of inputs, each summed in their order from its bias on; where one is negative it is
 * multiplied by `slope`.
 * @param out the first output; the next lies `plane` bytes on
 * @param from where each input begins: addresses, one after another
 * @param weights four biases, then of each input its four weights
 * @param n places, a multiple of eight
 */
export function mixFour(
  out: usize,
  plane: usize,
  from: usize,
  inputs: i32,
  weights: usize,
  slope: f32,
  n: i32,
): void {
  const length = (<usize>n) << 2;
  const less = f32x4.splat(slope);
  for (let i: usize = 0; i < length; i += 2 * VECTOR) {
    let a0 = v128.load32_splat(weights);
    let b0 = v128.load32_splat(weights, 4);
    let c0 = v128.load32_splat(weights, 8);
    let d0 = v128.load32_splat(weights, 12);
    let a1 = a0;
    let b1 = b0;
    let c1 = c0;
    let d1 = d0;
    let weight = weights + VECTOR;
    for (let k = 0; k < inputs; k++) {
      const at = <usize>load<u32>(from + ((<usize>k) << 2)) + i;
      const x = v128.load(at);
      const y = v128.load(at, 16);
      const a = v128.load32_splat(weight);
      const b = v128.load32_splat(weight, 4);
      const c = v128.load32_splat(weight, 8);
      const d = v128.load32_splat(weight, 12);
      a0 = f32x4.add(a0, f32x4.mul(x, a));
      a1 = f32x4.add(a1, f32x4.mul(y, a));
      b0 = f32x4.add(b0, f32x4.mul(x, b));
      b1 = f32x4.add(b1, f32x4.mul(y, b));
      c0 = f32x4.add(c0, f32x4.mul(x, c));
      c1 = f32x4.add(c1, f32x4.mul(y, c));
      d0 = f32x4.add(d0, f32x4.mul(x, d));
      d1 = f32x4.add(d1, f32x4.mul(y, d));
      weight += VECTOR;
    }
    put(out + i, a0, a1, less);
    put(out + plane + i, b0, b1, less);
    put(out + plane * 2 + i, c0, c1, less);
    put(out + plane * 3 + i, d0, d1, less);
  }
}

function put(to: usize, near: v128, far: v128, slope: v128): void {
  v128.store(to, bent(near, slope));
  v128.store(to, bent(far, slope), 16);
}

/** The slope is between 0 and 1, so that what is negative becomes larger by it. */
function bent(value: v128, slope: v128): v128 {
  return f32x4.pmax(value, f32x4.mul(value, slope));
}

/**
 * out[i] = the largest of four values: two beside each other of each of two rows.
 * @param n results, a multiple of four
 */
export function halveRow(out: usize, upper: usize, lower: usize, n: i32): void {
  const length = (<usize>n) << 2;
  for (let i: usize = 0; i < length; i += VECTOR) {
    const at = i * 2;
    const near = f32x4.pmax(v128.load(upper + at), v128.load(lower + at));
    const far = f32x4.pmax(v128.load(upper + at, 16), v128.load(lower + at, 16));
    const even = v128.shuffle<f32>(near, far, 0, 2, 4, 6);
    const odd = v128.shuffle<f32>(near, far, 1, 3, 5, 7);
    v128.store(out + i, f32x4.pmax(even, odd));
  }
}
