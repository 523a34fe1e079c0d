/**
 * Peak signal-to-noise ratio of two planes on the 0–1 scale, in dB; infinite where they are equal.
 * @throws RangeError where the planes differ in length
 */
export function psnr(a: ArrayLike<number>, b: ArrayLike<number>): number {
  if (a.length !== b.length) throw new RangeError('psnr: planes of different size');
  let sum = 0;
  for (let i = 0; i < a.length; i++) {
    const difference = Math.min(1, Math.max(0, a[i]!)) - Math.min(1, Math.max(0, b[i]!));
    sum += difference * difference;
  }
  return 10 * Math.log10(a.length / sum);
}

const WINDOW = 7;

/**
 * Mean structural similarity of two planes on the 0–1 scale, 1 where they are equal (Wang et al.
 * 2004), over windows of 7 x 7 pixels of even weight.
 * @throws RangeError where the planes differ from their size, or that is below a window
 */
export function ssim(
  a: Float32Array,
  b: Float32Array,
  { width, height }: { width: number; height: number },
): number {
  if (a.length !== width * height || b.length !== a.length || Math.min(width, height) < WINDOW) {
    throw new RangeError('ssim: planes of another size');
  }
  const c1 = 0.01 ** 2;
  const c2 = 0.03 ** 2;
  const count = WINDOW * WINDOW;
  let total = 0;
  let windows = 0;
  // Sums of columns of a window's height slide along each row of windows.
  const sums = Array.from({ length: 5 }, () => new Float64Array(width));
  for (let top = 0; top + WINDOW <= height; top++) {
    for (const column of sums) column.fill(0);
    for (let y = top; y < top + WINDOW; y++)
      for (let x = 0, i = y * width; x < width; x++, i++) {
        sums[0]![x]! += a[i]!;
        sums[1]![x]! += b[i]!;
        sums[2]![x]! += a[i]! * a[i]!;
        sums[3]![x]! += b[i]! * b[i]!;
        sums[4]![x]! += a[i]! * b[i]!;
      }
    for (let left = 0; left + WINDOW <= width; left++) {
      const [sa, sb, saa, sbb, sab] = sums.map((column) => {
        let sum = 0;
        for (let x = left; x < left + WINDOW; x++) sum += column[x]!;
        return sum / count;
      }) as [number, number, number, number, number];
      const both = sab - sa * sb;
      const spread = saa - sa * sa + sbb - sb * sb;
      total += ((2 * sa * sb + c1) * (2 * both + c2)) / ((sa * sa + sb * sb + c1) * (spread + c2));
      windows++;
    }
  }
  return total / windows;
}
