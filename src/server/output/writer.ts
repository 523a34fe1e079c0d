import type { Format } from '@/core/output/formats';
import { panelsOf } from '@/core/output/output';
import { jpegWriter } from './jpeg';
import type { ResultWriter, ToWrite } from './result-writer';
import { panelFilesWriter } from './panel-files';
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

export function writerOf(of: ToWrite): ResultWriter {
  const { output } = of.recipe;
  const panels = panelsOf(output);
  const write = WRITERS[output.format];
  return panels?.as === 'files' ? panelFilesWriter(of, panels, write) : write(of);
}
