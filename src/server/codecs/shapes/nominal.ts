import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';

/** Nominal pixels a point: parts of a page are named in hundredths of points, as files hold them. */
const NOMINAL = 100;

/** Size of the nominal grid of a page, from its size in points. */
export const toNominal = ({ width, height }: Size): Size => ({
  width: Math.max(1, Math.round(width * NOMINAL)),
  height: Math.max(1, Math.round(height * NOMINAL)),
});

/** A nominal grid's pixels to points of a page; the whole grid covers the whole page exactly. */
export function toPoints({ x, y, width, height }: Rect, page: Size): Rect {
  const nominal = toNominal(page);
  const across = page.width / nominal.width;
  const down = page.height / nominal.height;
  return { x: x * across, y: y * down, width: width * across, height: height * down };
}
