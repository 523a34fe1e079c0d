import { randomUUID } from 'node:crypto';
import { open, rename, rm } from 'node:fs/promises';
import sharp from 'sharp';
import { inItsColours } from '../output/pixels';
import { pdfRows, readPdf } from '../output/pdf-read';
import { lineOf, type SampleForm } from '../output/samples';
import { layOutTiff } from '../output/tiff-layout';

/** A file that we wrote, and where its pixels go. */
export interface UnpackTask {
  file: string;
  out: string;
  form: SampleForm;
  /** a PDF's picture is taken out of its page */
  pdf: boolean;
  /** its own colours are turned into a screen's */
  forScreen: boolean;
}

/** Writes the pixels of a result that was compressed, so that any part of them can be read. */
export async function unpack({ file, out, form, pdf, forScreen }: UnpackTask): Promise<void> {
  const part = `${out}.${randomUUID()}.part`;
  const inside = `${part}.tif`;
  const decoded = `${part}.v`;
  try {
    if (pdf) await takeOut(file, inside, form);
    const picture = sharp(pdf ? inside : file, {
      ...{ limitInputPixels: false, unlimited: true, sequentialRead: true },
      ignoreIcc: !forScreen,
    });
    await (
      forScreen
        ? picture.toColourspace(form.depth === 16 ? 'rgb16' : 'srgb')
        : inItsColours(picture, form)
    ).toFile(decoded);
    await rename(decoded, out);
  } finally {
    await Promise.all([rm(inside, { force: true }), rm(decoded, { force: true })]);
  }
}

/** A PDF's picture as a plain TIFF, with its profile. */
async function takeOut(pdf: string, out: string, form: SampleForm): Promise<void> {
  const { profile } = readPdf(pdf);
  const layout = layOutTiff({ ...form, profile, ppi: 72, rowsPerStrip: form.size.height });
  const to = await open(out, 'w');
  try {
    await to.write(layout.header, 0, layout.header.length, 0);
    const line = lineOf(form);
    for await (const { y, row } of pdfRows(pdf, form)) {
      await to.write(row, 0, line, layout.offsets[0]! + y * line);
    }
  } finally {
    await to.close();
  }
}
