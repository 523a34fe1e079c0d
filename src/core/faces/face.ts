import { z } from 'zod';

/** A face on a picture, upright or nearly so, from brow to chin. */
export const Face = z.object({
  /** its upper left corner, pixels of the original */
  x: z.number(),
  y: z.number(),
  width: z.number().positive(),
  height: z.number().positive(),
  /** how sure it is one, 0–1 */
  sure: z.number().min(0).max(1),
});
export type Face = z.infer<typeof Face>;

/** More faces than these are a crowd; the largest are kept. */
export const MOST_FACES = 60;
