import { followedBy, inverseOf, onDrawing, spotOn } from '@/core/placed/place';
import type { Affine, PlacedPicture } from '@/core/placed/placed';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { Problem } from '../../problem';
import {
  copied,
  heapOf,
  pdfium,
  withBitmap,
  withMemory,
  type Pdfium,
  type Samples,
} from './pdfium';
import { gridPlace, jpegOf, objectsOf, picturesOn, putIn, ready, samplesOf } from './pdf-pictures';
import type { ImageObject, PagePicture } from './pdf-pictures';
import { toNominal } from './nominal';
import type { InPlace } from './treated';

/** What pdfium's FPDF_GetLastError means. */
const PASSWORD = 4;
/** Drawing with annotations, as they print. */
const FOR_PRINT = 0x01 | 0x800;

/** A picture as a page holds it: what the page shows of it, and how it is stored where that is a plain JPEG. */
export interface StoredPicture extends Samples {
  jpeg: Uint8Array | null;
}

export interface PdfPage {
  /** in points, as the page is read */
  size: Size;
  pictures: PlacedPicture[];
  /** whether a picture, upright and opaque, is all that is on it */
  alone: boolean;
}

/** An open PDF. Only one thread may work with it; `close` frees its memory. */
export interface Pdf {
  pages: number;
  page(number: number): PdfPage;
  /** One of a page's pictures, by its number from 1; null where it can't be had. */
  picture(page: number, number: number): StoredPicture | null;
  /** Draws a part of a page, in points from its upper left corner, to RGBA samples on white. */
  draw(number: number, part: Rect, size: Size, treated?: InPlace): Promise<Buffer>;
  close(): void;
}

/**
 * Opens a PDF. Scripts in it don't run, and nothing outside it is read.
 * @throws Problem where it is encrypted or damaged
 */
export async function openPdf(bytes: Uint8Array, name: string): Promise<Pdf> {
  const library = await pdfium();
  const { pdfium: memory } = library;
  const data = memory.wasmExports.malloc(bytes.length);
  if (!data) throw new Problem('input', `${name} is too large a PDF to be opened.`);
  heapOf(library).bytes.set(bytes, data);
  const document = library.FPDF_LoadMemDocument(data, bytes.length, '');
  if (!document) {
    const error = library.FPDF_GetLastError();
    memory.wasmExports.free(data);
    throw new Problem(
      'input',
      error === PASSWORD
        ? `${name} is locked with a password. Ask for it without one.`
        : `${name} is a damaged PDF and can't be opened. Ask for it saved again.`,
    );
  }
  const close = () => {
    library.FPDF_CloseDocument(document);
    memory.wasmExports.free(data);
  };
  const pages = library.FPDF_GetPageCount(document);
  if (pages < 1) {
    close();
    throw new Problem('input', `${name} has no pages. Ask for the file again.`);
  }
  const looked = new Map<number, Looked>();
  const opened = (number: number): number => {
    const page = library.FPDF_LoadPage(document, number - 1);
    if (page) return page;
    throw new Problem('input', `Page ${number} of ${name} is damaged and can't be read.`);
  };
  const onPage = <T>(number: number, use: (page: number) => T): T => {
    const page = opened(number);
    try {
      return use(page);
    } finally {
      library.FPDF_ClosePage(page);
    }
  };
  /** Looks at a page before anything is put in on it, once. */
  const look = (number: number): Looked => {
    const known = looked.get(number) ?? onPage(number, (page) => lookAt(library, page));
    looked.set(number, known);
    return known;
  };
  return {
    pages,
    page: (number) => {
      const { size, pictures, alone } = look(number);
      return { size, alone, pictures: pictures.map(({ placed }) => placed) };
    },
    picture: (number, picture) => {
      const [first] = look(number).pictures[picture - 1]?.objects ?? [];
      if (first === undefined) return null;
      return onPage(number, (page) => {
        const image = objectsOf(library, page).images[first]!;
        const samples = samplesOf(library, document, page, image);
        return samples && { ...samples, jpeg: jpegOf(library, image) };
      });
    },
    draw: async (number, part, size, treated) => {
      const known = treated && look(number);
      const page = opened(number);
      try {
        const put = known ? await prepared(library, page, known, treated) : () => {};
        // From here on nothing is waited for: pictures are put in for all that draw this document.
        put();
        return draw(library, page, part, size);
      } finally {
        library.FPDF_ClosePage(page);
      }
    },
    close,
  };
}

/** What is known of a page as it came. */
interface Looked {
  size: Size;
  /** from its user space to its nominal grid */
  toGrid: Affine;
  pictures: PagePicture[];
  alone: boolean;
}

function lookAt(library: Pdfium, page: number): Looked {
  const size = sizeOf(library, page);
  const toGrid = gridOf(library, page, size);
  const { images, others } = objectsOf(library, page);
  const pictures = picturesOn(library, page, images, toGrid);
  const [image] = images;
  const alone = images.length === 1 && others === 0 && pictures[0]?.placed.kept === null;
  // One that is laid at an angle is more than its samples.
  const upright = library.FPDFPage_GetRotation(page) === 0 && image && isUpright(image);
  return { size, toGrid, pictures, alone: Boolean(alone && upright) };
}

const isUpright = ({ matrix: [a, b, c, d] }: ImageObject): boolean =>
  a > 0 && d > 0 && Math.abs(b) + Math.abs(c) < 1e-3;

const sizeOf = (library: Pdfium, page: number): Size => ({
  width: library.FPDF_GetPageWidthF(page),
  height: library.FPDF_GetPageHeightF(page),
});

/** Whole numbers that the library says places in, for the longer side of a page. */
const FINE = 2 ** 30;

/** From a page's user space to its nominal grid, by where three of its points come to lie. */
function gridOf(library: Pdfium, page: number, size: Size): Affine {
  const nominal = toNominal(size);
  const fine = Math.floor(FINE / Math.max(nominal.width, nominal.height));
  const [width, height] = [nominal.width * fine, nominal.height * fine];
  const span = Math.max(1, size.width, size.height);
  const at = (x: number, y: number): [number, number] =>
    withMemory(library, 8, (to) => {
      library.FPDF_PageToDevice(page, 0, 0, width, height, 0, x, y, to, to + 4);
      const [across, down] = heapOf(library).words.subarray(to >> 2, (to >> 2) + 2);
      return [(across! | 0) / fine, (down! | 0) / fine];
    });
  const [e, f] = at(0, 0);
  const [ax, ay] = at(span, 0);
  const [cx, cy] = at(0, span);
  return [(ax - e) / span, (ay - f) / span, (cx - e) / span, (cy - f) / span, e, f];
}

/** What puts treated pictures in their places on an open page, once their pixels were read. */
async function prepared(
  library: Pdfium,
  page: number,
  { size, toGrid, pictures }: Looked,
  { pictures: treated, drawn, size: drawing, cell }: InPlace,
): Promise<() => void> {
  const { images } = objectsOf(library, page);
  const nominal = toNominal(size);
  const spotOf = (place: Affine) => spotOn(place, nominal, drawn, drawing);
  const replaced = await Promise.all(
    [...treated].flatMap(([number, one]) => {
      const objects = pictures[number - 1]?.objects ?? [];
      const shown = objects.flatMap((index) => {
        const image = images[index];
        return image ? [{ image, spot: spotOf(gridPlace(image, toGrid)) }] : [];
      });
      return [ready({ treated: one, shown }, cell)];
    }),
  );
  const toUser = followedBy(inverseOf(onDrawing(nominal, drawn, drawing))!, inverseOf(toGrid)!);
  return () => replaced.forEach((one) => putIn(library, one, toUser));
}

function draw(library: Pdfium, page: number, part: Rect, size: Size): Buffer {
  return withBitmap(library, size, (bitmap) => {
    library.FPDFBitmap_FillRect(bitmap, 0, 0, size.width, size.height, 0xffffffff);
    const scaleX = size.width / part.width;
    const scaleY = size.height / part.height;
    const matrix = [scaleX, 0, 0, scaleY, -part.x * scaleX, -part.y * scaleY];
    const clip = [0, 0, size.width, size.height];
    withMemory(library, 40, (numbers) => {
      heapOf(library).floats.set([...matrix, ...clip], numbers >> 2);
      library.FPDF_RenderPageBitmapWithMatrix(bitmap, page, numbers, numbers + 24, FOR_PRINT);
    });
    return Buffer.from(copied(library, bitmap).samples.buffer);
  });
}
