import { z } from 'zod';
import { Length, toInches } from '../measure/units';
import { originalOf } from '../recipe/original';
import { planOf } from '../recipe/plan';
import type { Work } from '../recipe/work';
import type { Piece } from './job';

/** Orders a job again: as last time, or at another width, which the height follows. */
export const OrderAgain = z.object({
  /** of paper; null as it was */
  width: Length.refine(({ unit }) => unit !== 'px' && unit !== '%', {
    message: 'A width on paper, as 200 cm.',
  }).nullable(),
});
export type OrderAgain = z.infer<typeof OrderAgain>;

/**
 * A picture's work on a paper of another width and the same shape; all else is as it was.
 * @returns null where its paper isn't known, so that nothing follows from a width
 */
export function workAtWidth(
  { digest, findings, takenOut, work }: Pick<Piece, 'digest' | 'findings' | 'takenOut' | 'work'>,
  width: Length,
): Work | null {
  const { ppi } = work.trials[0]!;
  const planned = planOf(originalOf(digest, findings, takenOut), work, ppi);
  if (!planned.ok) return null;
  const { trim } = planned.plan;
  const inches = (length: Length) => toInches(length, { originalPixels: trim.width, ppi });
  const { width: before, height } = work.paper;
  const factor = inches(width) / (before ? inches(before) : trim.width / ppi);
  // Where both sides were ordered the other one grows alike; where one was, it follows the picture's shape.
  const other = height && before && { ...height, value: rounded(height.value * factor) };
  return { ...work, paper: { ...work.paper, width, height: other } };
}

/** To a thousandth. */
const rounded = (value: number): number => Math.round(value * 1000) / 1000;
