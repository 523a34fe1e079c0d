import type { Format } from '@/core/output/formats';
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
