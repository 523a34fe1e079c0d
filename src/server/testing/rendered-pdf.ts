import type { Size } from '@/core/raster/region';
import { copied, heapOf, pdfium, withBitmap, withMemory } from '../codecs/shapes/pdfium';

/** A PDF's first page as another program draws it: its size and boxes in points, and its pixels from the top. */
export interface RenderedPage {
  points: Size;
  box(which: 'trim' | 'bleed' | 'media'): Size | null;
  pixel(x: number, y: number): number[];
}

const WHITE = 0xffffffff;

/** @param scale pixels to a point */
export async function renderPage(bytes: Uint8Array, scale: number): Promise<RenderedPage> {
  const library = await pdfium();
  return withMemory(library, bytes.length, (at) => {
    heapOf(library).bytes.set(bytes, at);
    const document = library.FPDF_LoadMemDocument(at, bytes.length, '');
    if (!document) throw new Error('the PDF does not open');
    const page = library.FPDF_LoadPage(document, 0);
    const points = {
      width: library.FPDF_GetPageWidthF(page),
      height: library.FPDF_GetPageHeightF(page),
    };
    const size = {
      width: Math.round(points.width * scale),
      height: Math.round(points.height * scale),
    };
    const { samples, channels } = withBitmap(library, size, (bitmap) => {
      library.FPDFBitmap_FillRect(bitmap, 0, 0, size.width, size.height, WHITE);
      library.FPDF_RenderPageBitmap(bitmap, page, 0, 0, size.width, size.height, 0, 0);
      return copied(library, bitmap);
    });
    const boxes = {
      trim: library.FPDFPage_GetTrimBox,
      bleed: library.FPDFPage_GetBleedBox,
      media: library.FPDFPage_GetMediaBox,
    };
    const read = new Map(
      (['trim', 'bleed', 'media'] as const).map((which) => [
        which,
        withMemory(library, 16, (to) => {
          const there = boxes[which](page, to, to + 4, to + 8, to + 12);
          const [left, bottom, right, top] = heapOf(library).floats.slice(to / 4, to / 4 + 4);
          return there ? { width: right! - left!, height: top! - bottom! } : null;
        }),
      ]),
    );
    library.FPDF_ClosePage(page);
    library.FPDF_CloseDocument(document);
    return {
      points,
      box: (which) => read.get(which) ?? null,
      pixel: (x, y) => {
        const i = (Math.round(y) * size.width + Math.round(x)) * channels;
        return [...samples.subarray(i, i + 3)];
      },
    };
  });
}
