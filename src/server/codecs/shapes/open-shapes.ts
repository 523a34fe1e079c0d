import { readFile } from 'node:fs/promises';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { Problem } from '../../problem';
import { refusePage } from '../decode-pixels';
import { openPdf, type Pdf } from './pdf';
import { drawSvg, readSvg, type Svg } from './svg';
import type { InPlace } from './treated';

/** A page of shapes that can be drawn at any size. */
export interface Shapes {
  /** in points */
  size: Size;
  pages: number;
  /** draws a part of the page, in points from its upper left corner, to RGBA samples */
  draw(part: Rect, size: Size, treated?: InPlace): Promise<Buffer>;
}

/** The documents last drawn from, since a page is asked for piece by piece. */
const opened = new Map<string, { svg: Svg } | { pdf: Pdf }>();
const OPENED = 2;

/**
 * Opens a file of shapes by its path; the last two stay open.
 * @param replaced numbers of the pictures that will be drawn as they were treated: what is put into a document stays in it
 */
export async function openShapes(
  file: string,
  name: string,
  page: number,
  replaced: readonly number[] = [],
): Promise<Shapes> {
  const known = await openDocument(
    file,
    name,
    replaced.length > 0 ? `${file} ${page} ${replaced.join()}` : file,
  );
  if ('svg' in known) return shapesOfSvg(known.svg, name);
  refusePage(page, known.pdf.pages, name);
  return shapesOfPdf(known.pdf, known.pdf.page(page).size, page);
}

/** @param as what the opened document is known as */
export async function openDocument(
  file: string,
  name: string,
  as = file,
): Promise<{ svg: Svg } | { pdf: Pdf }> {
  let known = opened.get(as);
  opened.delete(as);
  if (!known) {
    const bytes = await readFile(file);
    known = isPdf(bytes)
      ? { pdf: await openPdf(bytes, name) }
      : { svg: await readSvg(bytes, name) };
  }
  opened.set(as, known);
  for (const [oldest, document] of opened) {
    if (opened.size <= OPENED) break;
    opened.delete(oldest);
    if ('pdf' in document) document.pdf.close();
  }
  return known;
}

const isPdf = (bytes: Buffer): boolean => bytes.subarray(0, 1024).includes('%PDF-');

/** CSS pixels a point. */
const CSS = 96 / 72;

export function shapesOfSvg(svg: Svg, name: string): Shapes {
  return {
    size: { width: svg.size.width / CSS, height: svg.size.height / CSS },
    pages: 1,
    draw: async ({ x, y, width, height }, size, treated) => {
      const part = { x: x * CSS, y: y * CSS, width: width * CSS, height: height * CSS };
      try {
        return await drawSvg(svg, part, size, treated);
      } catch {
        throw new Problem(
          'input',
          `${name} can't be drawn: something in it is damaged or never ends. Ask for it saved again, or as PDF.`,
        );
      }
    },
  };
}

export const shapesOfPdf = (pdf: Pdf, size: Size, page: number): Shapes => ({
  size,
  pages: pdf.pages,
  draw: (part, pixels, treated) => pdf.draw(page, part, pixels, treated),
});
