/** Steps a side of a screen table: a cube of RGB bytes, red slowest. */
export const TABLE_SIDE = 65;

/**
 * Converts RGBA for the screen in place, by a cube that says how a profile's colours look in sRGB;
 * between its steps tetrahedra are interpolated (Kasson et al. 1993).
 * @param table 65 x 65 x 65 RGB bytes
 */
export function toScreenColours(rgba: Uint8ClampedArray, table: Uint8Array): void {
  const scale = (TABLE_SIDE - 1) / 255;
  const strides = [TABLE_SIDE * TABLE_SIDE * 3, TABLE_SIDE * 3, 3] as const;
  for (let i = 0; i < rgba.length; i += 4) {
    const r = rgba[i]! * scale;
    const g = rgba[i + 1]! * scale;
    const b = rgba[i + 2]! * scale;
    const r0 = Math.min(TABLE_SIDE - 2, Math.floor(r));
    const g0 = Math.min(TABLE_SIDE - 2, Math.floor(g));
    const b0 = Math.min(TABLE_SIDE - 2, Math.floor(b));
    const [fr, fg, fb] = [r - r0, g - g0, b - b0];
    const start = r0 * strides[0] + g0 * strides[1] + b0 * strides[2];
    const end = start + strides[0] + strides[1] + strides[2];
    // From the dark corner to the bright one along the axes, the largest fraction first.
    const [high, middle, low] = ordered(fr, fg, fb);
    const fractions = [fr, fg, fb] as const;
    const first = start + strides[high];
    const second = first + strides[middle];
    const f1 = fractions[high];
    const f2 = fractions[middle];
    const f3 = fractions[low];
    for (let c = 0; c < 3; c++) {
      rgba[i + c] =
        (1 - f1) * table[start + c]! +
        (f1 - f2) * table[first + c]! +
        (f2 - f3) * table[second + c]! +
        f3 * table[end + c]!;
    }
  }
}

type Axis = 0 | 1 | 2;
const ORDERS: readonly (readonly [Axis, Axis, Axis])[] = [
  [0, 1, 2],
  [0, 2, 1],
  [2, 0, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 1, 0],
];

/** The axes by their fractions, largest first. */
function ordered(r: number, g: number, b: number): readonly [Axis, Axis, Axis] {
  if (r >= g) return g >= b ? ORDERS[0]! : r >= b ? ORDERS[1]! : ORDERS[2]!;
  return r >= b ? ORDERS[3]! : g >= b ? ORDERS[4]! : ORDERS[5]!;
}
