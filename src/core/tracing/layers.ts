import { LEVEL } from '../raster/samples';
import type { Areas } from './areas';
import type { Fill } from './tracing';

/** Areas are thin where they are so many pixels wide on the mean, or smaller than so many. */
const THIN = 3;
const SMALL = 20;
/** A layer's colour is off those that lie between its neighbours' by no more. */
const BETWEEN = 14 * LEVEL;
/** Each of its two neighbours has at least this share of its rim. */
const BESIDE = 0.2;

/**
 * Finds the areas that are none: the thin layers between two others in which one goes over into the other.
 * @returns 1 for each of them; null where there is none
 */
export function layersOf(
  { width, height, of, count }: Areas,
  fills: readonly Fill[],
): Uint8Array | null {
  const pixels = new Int32Array(count);
  const rims = Array.from({ length: count }, () => new Map<number, number>());
  const meet = (area: number, other: number) => {
    rims[area]!.set(other, (rims[area]!.get(other) ?? 0) + 1);
    rims[other]!.set(area, (rims[other]!.get(area) ?? 0) + 1);
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const area = of[i]!;
      pixels[area]!++;
      if (x > 0 && of[i - 1] !== area) meet(area, of[i - 1]!);
      if (y > 0 && of[i - width] !== area) meet(area, of[i - width]!);
    }
  const dropped = new Uint8Array(count);
  let any = false;
  for (let area = 0; area < count; area++) {
    const rim = [...rims[area]!].sort((a, b) => b[1] - a[1]);
    const around = rim.reduce((sum, [, length]) => sum + length, 0);
    const isThin = pixels[area]! < SMALL || (2 * pixels[area]!) / around < THIN;
    if (!isThin || rim.length < 2) continue;
    const beside = rim.filter(
      ([other, length]) => length >= BESIDE * around && pixels[other]! > pixels[area]!,
    );
    const between = beside.some(([a], i) =>
      beside
        .slice(i + 1)
        .some(([b]) => liesBetween(fills[area]!.colour, fills[a]!.colour, fills[b]!.colour)),
    );
    if (between) {
      dropped[area] = 1;
      any = true;
    }
  }
  return any ? dropped : null;
}

/** Whether a colour is a mixture of two others. */
function liesBetween(
  colour: readonly number[],
  a: readonly number[],
  b: readonly number[],
): boolean {
  let [along, apart] = [0, 0];
  colour.forEach((value, c) => {
    along += (value - a[c]!) * (b[c]! - a[c]!);
    apart += (b[c]! - a[c]!) * (b[c]! - a[c]!);
  });
  if (apart === 0) return false;
  const share = along / apart;
  return (
    share > 0.03 &&
    share < 0.97 &&
    colour.every((value, c) => Math.abs(value - a[c]! - share * (b[c]! - a[c]!)) <= BETWEEN)
  );
}
