import { z } from 'zod';
import type { Size } from '../raster/region';
import { Format, formatOf } from './formats';

/** How the result is written. */
export const Output = z.object({
  format: Format,
  /** quality of a lossy format, 1–100; the others keep every bit */
  quality: z.int().min(1).max(100),
  /** bits a sample, as far as the format holds them */
  depth: z.union([z.literal(8), z.literal(16)]),
  /** transparency: kept where the format holds it, or laid on the paper's colour */
  alpha: z.enum(['keep', 'paper']).default('paper'),
});
export type Output = z.infer<typeof Output>;

/** An output in another format: what that one can't hold is as near as it can be. */
export function inFormat(output: Output, format: Format): Output {
  const { depths } = formatOf(format);
  const depth = depths.includes(output.depth) ? output.depth : depths[0];
  return { ...output, format, depth };
}

/** Whether the file keeps what is transparent. */
export const keepsAlpha = ({ alpha, format }: Output): boolean =>
  alpha === 'keep' && formatOf(format).alpha;

/** An output in a few words: TIFF 16 bit, JPEG 95. */
export function outputWords({ format, quality, depth }: Output): string {
  const known = formatOf(format);
  return known.quality ? `${known.name} ${quality}` : `${known.name} ${depth} bit`;
}

/** About how large a file will be, in bytes; at its usual quality better than far from it. */
export function estimatedBytes(
  { width, height }: Size,
  { format, depth, quality }: Pick<Output, 'format' | 'depth' | 'quality'>,
): number {
  const known = formatOf(format);
  const lossy = known.quality ? Math.max(0.2, (quality / known.quality.usual) ** 3) : 1;
  return width * height * known.pixelBytes * (depth / known.depths[0]) * lossy;
}
