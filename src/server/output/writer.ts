import type { Format } from '@/core/output/formats';
import { planeCount } from '@/core/raster/form';
import { graphOf } from '@/core/recipe/graph';
import type { Recipe } from '@/core/recipe/recipe';
import { jpegWriter } from './jpeg';
import type { ResultWriter, ToWrite } from './result-writer';
import { pngWriter } from './png';
import { tiffWriter } from './tiff';
import { webpWriter } from './webp';
import { pdfWriter } from './pdf';

const WRITERS: Record<Format, (of: ToWrite) => ResultWriter> = {
  tiff: tiffWriter,
  jpeg: jpegWriter,
  png: pngWriter,
  webp: webpWriter,
  pdf: pdfWriter,
};

export const writerOf = (of: ToWrite): ResultWriter => WRITERS[of.recipe.output.format](of);

/** Bytes that a result takes at most on disk while it is written and read back. */
export function bytesWhileWritten(recipe: Recipe): number {
  const { target, output } = recipe;
  const pixel = planeCount(graphOf(recipe).result.form) * (output.depth / 8);
  const samples = target.width * target.height * pixel;
  // An encoded one is made from plain samples, and decoded into some.
  return output.format === 'tiff' && output.compression === 'none' ? samples : 3 * samples;
}
