import { z } from 'zod';

export const Format = z.enum(['tiff', 'jpeg', 'png']);
export type Format = z.infer<typeof Format>;

/** How the result is written. */
export const Output = z.object({
  format: Format,
  /** JPEG quality, 1–100; the other formats keep every bit */
  quality: z.int().min(1).max(100),
  /** bits a sample; JPEG holds 8 */
  depth: z.union([z.literal(8), z.literal(16)]),
  /** transparency: kept where the format holds it, or laid on the paper's colour */
  alpha: z.enum(['keep', 'paper']).default('paper'),
});
export type Output = z.infer<typeof Output>;
