import { z } from 'zod';
import { edgesRiseOver } from './blur';
import { meanPower } from './mean-power';

/** A picture is looked at in so many parts across and down. */
const PARTS = 3;
const NAMES = [
  ...(['upper left', 'top', 'upper right'] as const),
  ...(['left', 'middle', 'right'] as const),
  ...(['lower left', 'bottom', 'lower right'] as const),
] as const;
/** Nothing is told of fewer parts, nor where they differ by less, in pixels: subjects make them differ by that. */
const LEAST_PARTS = 4;
const DIFFER = 2;

/** A part of a picture, and the pixels that its sharp edges take to rise. */
const Part = z.object({ part: z.enum(NAMES), width: z.number().min(0) });

/** The sharpest and the softest part of a picture whose sharpness differs. */
export const LocalBlur = z.object({ sharpest: Part, softest: Part });
export type LocalBlur = z.infer<typeof LocalBlur>;

/**
 * Where a picture is sharp and where it is soft, by the spectra of its parts.
 * @param powers of its patches, row by row
 * @param noise standard deviation of luminance noise, levels
 * @returns null where it is alike all over, or nothing tells
 */
export function measureLocalBlur(
  powers: readonly (Float64Array | null)[],
  { columns, rows }: { columns: number; rows: number },
  noise: number,
): LocalBlur | null {
  const parts = NAMES.map((part, i) => {
    const across = i % PARTS;
    const down = Math.floor(i / PARTS);
    const power = meanPower(
      powers.filter(
        (_, k) => lies(k % columns, columns, across) && lies(Math.floor(k / columns), rows, down),
      ),
    );
    return { part, width: power && edgesRiseOver(power, noise) };
  }).filter((one): one is z.infer<typeof Part> => one.width !== null);
  if (parts.length < LEAST_PARTS) return null;
  const [sharpest, softest] = parts.reduce(
    ([sharp, soft], one) => [
      one.width < sharp.width ? one : sharp,
      one.width > soft.width ? one : soft,
    ],
    [parts[0]!, parts[0]!],
  );
  return softest.width - sharpest.width < DIFFER ? null : { sharpest, softest };
}

/** Whether one of so many patches lies in a part: in its third, and of small pictures the two that are nearest to it. */
function lies(at: number, count: number, part: number): boolean {
  const apart = Math.abs((at + 0.5) / count - (part + 0.5) / PARTS);
  return apart <= Math.max(1 / (2 * PARTS), 1 / count);
}
