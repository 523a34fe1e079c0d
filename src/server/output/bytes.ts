import { planeCount } from '@/core/raster/form';
import { graphOf } from '@/core/recipe/graph';
import { isArchive } from '@/core/output/output';
import type { Recipe } from '@/core/recipe/recipe';

/** Bytes that a result takes at most on disk while it is written and read back. */
export function bytesWhileWritten(recipe: Recipe): number {
  const { target, output } = recipe;
  const pixel = planeCount(graphOf(recipe).written.form) * (output.depth / 8);
  const samples = target.width * target.height * pixel;
  // Panels are written beside, and once more into their archive.
  if (isArchive(output)) return 5 * samples;
  // An encoded one is made from plain samples, and decoded into some.
  return output.format === 'tiff' && output.compression === 'none' ? samples : 3 * samples;
}
