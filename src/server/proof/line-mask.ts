import sharp from 'sharp';
import type { Size } from '@/core/raster/region';
import { lettersIn } from '../output/letters';

/** A line of letters in pixels: how far each is covered, 0–255, and where the line stands in them. */
export interface LineMask extends Size {
  mask: Uint8Array;
  /** rows from the top to the foot of its letters */
  base: number;
}

/** Above and below the foot of letters, for their height. */
const ABOVE = 1;
const BELOW = 0.3;

/**
 * A line of text as it is laid on a picture.
 * @param size height of its letters, and `length` where it is cut off; both in pixels
 * @returns null where there is nothing to be seen of it
 */
export async function lineMask(
  text: string,
  size: number,
  length: number,
): Promise<LineMask | null> {
  const letters = lettersIn(text, size, length);
  const last = letters.at(-1);
  if (!last) return null;
  const base = Math.ceil(size * ABOVE);
  const width = Math.ceil(last.x + last.run.advanceWidth * last.scale) + 1;
  const height = base + Math.ceil(size * BELOW);
  const glyphs = letters.flatMap(({ run, x, scale }) =>
    run.glyphs.map(
      (glyph) =>
        `<path transform="translate(${x} ${base}) scale(${scale} ${-scale})" d="${glyph.path.toSVG()}"/>`,
    ),
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${glyphs.join('')}</svg>`;
  const mask = await sharp(Buffer.from(svg)).ensureAlpha().extractChannel(3).raw().toBuffer();
  return { mask: new Uint8Array(mask), width, height, base };
}
