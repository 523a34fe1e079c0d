import type { Maps } from '../inspect/findings';
import { PATCH } from '../inspect/patches';
import type { Size } from '../raster/region';

/** Where detail is below so much of the picture's best, in %, ways to enlarge hardly differ. */
const FLAT = 35;

/**
 * Where ways to enlarge differ: the nearest part with plenty of detail.
 * @param size of the original
 * @param at what is in view, in its pixels
 * @returns null where that tells enough, or nowhere does
 */
export function tellingPlace(
  { columns, rows, sharpness }: Pick<Maps, 'columns' | 'rows' | 'sharpness'>,
  size: Size,
  at: { x: number; y: number },
): { x: number; y: number } | null {
  const middle = (i: number, count: number, side: number): number => {
    const patch = Math.min(PATCH, side);
    return patch / 2 + (count === 1 ? (side - patch) / 2 : (i * (side - patch)) / (count - 1));
  };
  const parts = sharpness.map((detail, i) => ({
    detail: detail ?? 0,
    x: middle(i % columns, columns, size.width),
    y: middle(Math.floor(i / columns), rows, size.height),
  }));
  const best = Math.max(0, ...parts.map(({ detail }) => detail));
  if (best === 0) return null;
  const away = (part: { x: number; y: number }) => Math.hypot(part.x - at.x, part.y - at.y);
  const nearest = parts.reduce((one, other) => (away(other) < away(one) ? other : one));
  if (nearest.detail >= (FLAT / 100) * best) return null;
  const { x, y } = parts
    .filter(({ detail }) => detail >= 0.8 * best)
    .reduce((one, other) => (away(other) < away(one) ? other : one));
  return { x, y };
}
