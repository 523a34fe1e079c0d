import { clip, type Region, type Size } from '../raster/region';

/** Steps of a quantisation table, in levels, that count as having kept nothing. */
const WORST = 80;

/**
 * How badly a quantisation table damages a picture, 0 not at all to 1: the mean of its sixteen
 * slowest waves, where most of a picture lies.
 */
export function severityOf(table: readonly number[]): number {
  let sum = 0;
  for (let v = 0; v < 4; v++) for (let u = 0; u < 4; u++) sum += table[v * 8 + u]!;
  return Math.min(1, Math.sqrt(sum / 16 / WORST));
}

/** `region` on whole pairs of pixels, since networks may work at half resolution. */
export function onPairs(region: Region, size: Size): Region {
  const x = region.x - (region.x % 2);
  const y = region.y - (region.y % 2);
  return clip(
    { x, y, width: region.x + region.width - x, height: region.y + region.height - y },
    size,
  );
}

/** Beyond its borders a picture goes on as its mirror image, as far as the rim looks. */
export function mirror(at: number, count: number): number {
  const turned = at < 0 ? -1 - at : at >= count ? 2 * count - 1 - at : at;
  return Math.min(Math.max(turned, 0), count - 1);
}
