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
