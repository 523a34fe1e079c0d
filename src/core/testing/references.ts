import type { Size } from '../raster/region';

/**
 * What a blend makes of a backdrop under a layer, in double precision, all in 0–1: overlay and soft light as in W3C
 * Compositing and Blending Level 1 (2015), linear light as backdrop + 2 x layer - 1.
 */
export const BLEND_REFERENCES: Record<string, (backdrop: number, layer: number) => number> = {
  overlay: (backdrop, layer) =>
    backdrop <= 0.5 ? 2 * backdrop * layer : 1 - 2 * (1 - backdrop) * (1 - layer),
  'soft light': (backdrop, layer) => {
    if (layer <= 0.5) return backdrop - (1 - 2 * layer) * backdrop * (1 - backdrop);
    const bent =
      backdrop <= 0.25 ? ((16 * backdrop - 12) * backdrop + 4) * backdrop : Math.sqrt(backdrop);
    return backdrop + (2 * layer - 1) * (bent - backdrop);
  },
  'linear light': (backdrop, layer) => backdrop + 2 * layer - 1,
};

/**
 * The textbook: a two-dimensional Gaussian by its formula, in double precision, renormalised at the borders.
 * @param radii how far it is looked, in radii
 */
export function gaussianReference(
  plane: ArrayLike<number>,
  { width, height }: Size,
  radius: number,
  radii = 3,
): Float64Array {
  const reach = Math.ceil(radii * radius);
  const bell = Float64Array.from({ length: reach + 1 }, (_, k) =>
    Math.exp(-(k * k) / (2 * radius * radius)),
  );
  const along = (
    from: ArrayLike<number>,
    length: number,
    lines: number,
    step: number,
    next: number,
  ): Float64Array => {
    const result = new Float64Array(from.length);
    for (let line = 0; line < lines; line++)
      for (let i = 0; i < length; i++) {
        let sum = 0;
        let total = 0;
        for (let k = Math.max(0, i - reach); k <= Math.min(length - 1, i + reach); k++) {
          const weight = bell[Math.abs(k - i)]!;
          sum += weight * from[line * next + k * step]!;
          total += weight;
        }
        result[line * next + i * step] = sum / total;
      }
    return result;
  };
  return along(along(plane, width, height, 1, width), height, width, width, 1);
}
