import type { Size } from '../raster/region';

/** Longest side that a format can hold, in pixels. TIFF becomes BigTIFF where it passes 4 GB. */
export const SIDE_LIMIT = {
  tiff: Number.MAX_SAFE_INTEGER,
  jpeg: 65_500,
  png: 2 ** 31 - 1,
} as const;

/** Why a format can't hold a picture, with what works; null where it can. */
export function formatRefusal(
  format: keyof typeof SIDE_LIMIT,
  { width, height }: Size,
  ppi: number,
): string | null {
  const side = Math.max(width, height);
  const limit = SIDE_LIMIT[format];
  if (side <= limit) return null;
  const fits = Math.floor((ppi * limit) / side);
  const orFewer = fits >= 1 ? `, or order ${fits} ppi` : '';
  return `A ${format.toUpperCase()} holds at most ${limit} pixels a side, this result has ${side}. Choose TIFF${orFewer}.`;
}
