import type { PlacedPicture } from '../placed/placed';
import type { PrintPlan } from './plan';

/** What a picture on a page carries where that is printed, in pixels an inch; along the side that carries less. */
export function placedPpi(
  { width, height, place }: PlacedPicture,
  { picture, source, ppiAfter }: PrintPlan,
): number {
  if (!place) return Infinity;
  const scale = picture.width / source.width;
  const across = scale * Math.hypot(place[0], place[1]);
  const down = scale * Math.hypot(place[2], place[3]);
  return ppiAfter * Math.min(width / across, height / down);
}

/** Share of its page from which on a picture is looked at, and not a sign among others. */
const LOOKED_AT = 0.005;

/** The picture of a page that carries least where it is printed, by its number from 1; null where none is looked at. */
export function leastPlaced(
  page: { widthPt: number; heightPt: number; pictures: readonly PlacedPicture[] },
  plan: PrintPlan,
): { picture: number; placed: PlacedPicture; ppi: number } | null {
  const area = page.widthPt * page.heightPt;
  const [least] = page.pictures
    .map((placed, i) => ({ picture: i + 1, placed, ppi: placedPpi(placed, plan) }))
    .filter(({ placed }) => placed.place && placed.widthPt * placed.heightPt >= LOOKED_AT * area)
    .sort((a, b) => a.ppi - b.ppi);
  return least ?? null;
}
