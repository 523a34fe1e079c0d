import type { Findings } from './findings';

/** A grid that shows by so much tells of earlier compression, where its quality could be told as well. */
const SHOWN = 1.15;
/** In a picture of so many pixels a few letters alone may look like a grid that shows by so much more. */
const CHANCE = { pixels: 150_000, ratio: 0.3 } as const;

/** Where a block of earlier compression begins, 0–7, and its quality, or null where that isn't known. */
export interface EarlierBlocks {
  x: number;
  y: number;
  quality: number | null;
}

type Told = Pick<
  Findings,
  'jpeg' | 'compressedBefore' | 'blocking' | 'formerQuality' | 'width' | 'height'
>;

/**
 * Blocks of earlier compression that was coarser than what the file says of itself; null where there are none, or they show by
 * no more than chance.
 */
export function earlierBlocks(findings: Told): EarlierBlocks | null {
  const { jpeg, compressedBefore, blocking, formerQuality, width, height } = findings;
  if (jpeg) return compressedBefore;
  const chance = CHANCE.ratio * Math.sqrt(CHANCE.pixels / (width * height));
  const told = formerQuality === null ? SHOWN + chance : SHOWN;
  if (blocking.ratio < told) return null;
  return { x: blocking.offsetX, y: blocking.offsetY, quality: formerQuality };
}
