import { z } from 'zod';
import { say } from '../words/say';

/** The qualities that a picture is tried at. */
export const TRIED_QUALITIES = [40, 50, 60, 70, 76, 82, 86, 90, 93, 96, 98, 100] as const;

/** What a JPEG of one quality costs a picture. */
export const JpegCost = z.object({
  quality: z.int(),
  /** bytes a pixel of the file */
  bytes: z.number(),
  /** of R, G and B against what was computed, in dB, where it is least */
  psnr: z.number(),
  /** how much stronger its steps are at the borders of blocks than within them, in levels of luminance, where they are most */
  blocking: z.number(),
});
export type JpegCost = z.infer<typeof JpegCost>;

const BLOCK = 8;
/** The highest ratio that is told: of files that are all but the same. */
const MOST_DB = 60;

/** Luminance of interleaved RGB samples, in levels (Rec. 601). */
const lumaAt = (rgb: ArrayLike<number>, i: number): number =>
  0.299 * rgb[3 * i]! + 0.587 * rgb[3 * i + 1]! + 0.114 * rgb[3 * i + 2]!;

/**
 * What compression did to a picture: its own change alone counts, so that edges of the picture don't.
 * @param exact interleaved RGB of 8 bits, before
 * @param decoded the same after
 * @param width pixels of a row; blocks begin at its first one
 */
export function jpegDamage(
  exact: ArrayLike<number>,
  decoded: ArrayLike<number>,
  width: number,
): Pick<JpegCost, 'psnr' | 'blocking'> {
  let squares = 0;
  for (let i = 0; i < exact.length; i++) squares += (exact[i]! - decoded[i]!) ** 2;
  const psnr = 10 * Math.log10((255 * 255 * exact.length) / squares);
  const count = exact.length / 3;
  const change = Float32Array.from(
    { length: count },
    (_, i) => lumaAt(decoded, i) - lumaAt(exact, i),
  );
  const across = steps(change, width, 1);
  const down = steps(change, width, width);
  const blocking = (across.borders + down.borders - across.within - down.within) / 2;
  return { psnr: Math.min(MOST_DB, psnr), blocking: Math.max(0, blocking) };
}

/** Mean steps between neighbours at the borders of blocks, and within them. @param by 1 across, the width down */
function steps(
  change: Float32Array,
  width: number,
  by: number,
): { borders: number; within: number } {
  let [borders, atBorders, within, inside] = [0, 0, 0, 0];
  for (let i = 0; i < change.length; i++) {
    const at = by === 1 ? i % width : Math.floor(i / width);
    if (at === 0) continue;
    const step = Math.abs(change[i]! - change[i - by]!);
    if (at % BLOCK === 0) {
      borders += step;
      atBorders++;
    } else {
      within += step;
      inside++;
    }
  }
  return { borders: borders / Math.max(1, atBorders), within: within / Math.max(1, inside) };
}

/** The worst of several places. */
export const worst = (
  places: readonly Pick<JpegCost, 'psnr' | 'blocking'>[],
): Pick<JpegCost, 'psnr' | 'blocking'> => ({
  psnr: Math.min(...places.map(({ psnr }) => psnr)),
  blocking: Math.max(...places.map(({ blocking }) => blocking)),
});

/** Blocks of less than this are not seen on paper, nor changes at this ratio. */
const UNSEEN_BLOCKING = 0.2;
const UNSEEN_DB = 44;

/** The lowest quality tried that is not seen, and why; null where none of them is. */
export function suggestedQuality(
  costs: readonly JpegCost[],
): { quality: number; reason: string } | null {
  const sorted = [...costs].sort((a, b) => a.quality - b.quality);
  // From there on all have to be good.
  const first = sorted.findIndex((_, i) =>
    sorted.slice(i).every(({ psnr, blocking }) => psnr >= UNSEEN_DB && blocking <= UNSEEN_BLOCKING),
  );
  const found = sorted[first];
  if (!found) return null;
  const below = sorted[first - 1];
  const { quality, psnr, blocking } = found;
  const figures = say`${psnr.toFixed(0)} dB, steps of ${blocking.toFixed(1)} levels at block edges`;
  if (!below) return { quality, reason: say`Even at ${quality} nothing shows: ${figures}.` };
  const why =
    below.blocking > UNSEEN_BLOCKING
      ? say`at ${below.quality} steps of ${below.blocking.toFixed(1)} levels come back at block edges`
      : say`at ${below.quality} changes reach ${below.psnr.toFixed(0)} dB`;
  return { quality, reason: say`From ${quality} on nothing shows (${figures}); ${why}.` };
}
