import { z } from 'zod';
import type { Findings } from '../inspect/findings';

/**
 * An affine map: x' = a x + c y + e, y' = b x + d y + f. Of a placed picture: from the unit square, whose origin is
 * the picture's upper left corner, to the nominal grid of its page.
 */
export const Affine = z.tuple([
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
]);
export type Affine = z.infer<typeof Affine>;

/** The most pictures of a page that are treated. */
export const PLACED_LIMIT = 40;

/** A picture placed on a page of shapes. */
export const PlacedPicture = z.object({
  width: z.int().positive(),
  height: z.int().positive(),
  /** as it lies on the page, in points; where it lies there several times, where it is largest */
  widthPt: z.number().positive(),
  heightPt: z.number().positive(),
  place: Affine.nullable().default(null),
  /** how often the page shows it */
  times: z.int().positive().default(1),
  /** why it can't be taken out, in words; null where it can be tried */
  kept: z.string().nullable().default(null),
});
export type PlacedPicture = z.infer<typeof PlacedPicture>;

/** A picture that was taken out of its page, to be treated as one of its own. */
export interface TakenOut {
  /** its number among the page's pictures, from 1 */
  picture: number;
  /** of the file that it became */
  digest: string;
  findings: Findings;
}
