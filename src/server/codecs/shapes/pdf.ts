import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium';
import type { Rect } from '@/core/frame/framing';
import type { PlacedPicture } from '@/core/inspect/findings';
import type { Size } from '@/core/raster/region';
import { Problem } from '../../problem';

/** What pdfium's FPDF_GetLastError means. */
const PASSWORD = 4;
/** Kinds of page objects. */
const IMAGE = 3;
const FORM = 5;
/** Bitmap formats: bytes a pixel in the order blue, green, red (alpha). */
const GREY = 1;
const BGR = 2;
const BGRX = 3;
const BGRA = 4;
/** Drawing with annotations, as they print. */
const FOR_PRINT = 0x01 | 0x800;
/** Objects that are looked through for pictures; a page can hold millions. */
const OBJECT_LIMIT = 20_000;
const FORM_DEPTH = 6;

let loading: Promise<WrappedPdfiumModule> | undefined;

async function pdfium(): Promise<WrappedPdfiumModule> {
  loading ??= (async () => {
    const path = createRequire(import.meta.url).resolve('@embedpdf/pdfium/pdfium.wasm');
    const binary = await readFile(path);
    const library = await init({ wasmBinary: new Uint8Array(binary).buffer });
    library.PDFiumExt_Init();
    return library;
  })();
  return loading;
}

/** Views of the library's memory; they are good until it is asked for more. */
function heapOf(library: WrappedPdfiumModule) {
  const heap = library.pdfium as unknown as {
    HEAPU8: Uint8Array;
    HEAPU32: Uint32Array;
    HEAPF32: Float32Array;
  };
  return { bytes: heap.HEAPU8, words: heap.HEAPU32, floats: heap.HEAPF32 };
}

/** Samples of the one picture that a page holds. */
export type OnePicture =
  | { as: 'jpeg'; bytes: Uint8Array }
  | { as: 'samples'; size: Size; channels: 1 | 3 | 4; samples: Uint8Array };

export interface PdfPage {
  /** in points, as the page is read */
  size: Size;
  pictures: PlacedPicture[];
  /** the page's only content, upright on it */
  only: { picture: OnePicture; placed: PlacedPicture } | null;
}

/** An open PDF. Only one thread may work with it; `close` frees its memory. */
export interface Pdf {
  pages: number;
  page(number: number): PdfPage;
  /** Draws a part of a page, in points from its upper left corner, to RGBA samples on white. */
  draw(number: number, part: Rect, size: Size): Buffer;
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
  const onPage = <T>(number: number, use: (page: number) => T): T => {
    const page = library.FPDF_LoadPage(document, number - 1);
    if (!page) {
      throw new Problem('input', `Page ${number} of ${name} is damaged and can't be read.`);
    }
    try {
      return use(page);
    } finally {
      library.FPDF_ClosePage(page);
    }
  };
  return {
    pages,
    page: (number) => onPage(number, (page) => lookAt(library, page)),
    draw: (number, part, size) => onPage(number, (page) => draw(library, page, part, size)),
    close,
  };
}

const sizeOf = (library: WrappedPdfiumModule, page: number): Size => ({
  width: library.FPDF_GetPageWidthF(page),
  height: library.FPDF_GetPageHeightF(page),
});

function draw(library: WrappedPdfiumModule, page: number, part: Rect, size: Size): Buffer {
  const { pdfium: memory } = library;
  const bitmap = library.FPDFBitmap_CreateEx(size.width, size.height, BGRA, 0, 0);
  if (!bitmap) throw new Error('pdf: no memory for a drawing');
  const numbers = memory.wasmExports.malloc(40);
  try {
    library.FPDFBitmap_FillRect(bitmap, 0, 0, size.width, size.height, 0xffffffff);
    const scaleX = size.width / part.width;
    const scaleY = size.height / part.height;
    const matrix = [scaleX, 0, 0, scaleY, -part.x * scaleX, -part.y * scaleY];
    const clip = [0, 0, size.width, size.height];
    heapOf(library).floats.set([...matrix, ...clip], numbers >> 2);
    library.FPDF_RenderPageBitmapWithMatrix(bitmap, page, numbers, numbers + 24, FOR_PRINT);
    const { samples } = copied(library, bitmap);
    return Buffer.from(samples.buffer);
  } finally {
    memory.wasmExports.free(numbers);
    library.FPDFBitmap_Destroy(bitmap);
  }
}

/** A bitmap's samples in the order red, green, blue (alpha), without padding. */
function copied(library: WrappedPdfiumModule, bitmap: number) {
  const size = {
    width: library.FPDFBitmap_GetWidth(bitmap),
    height: library.FPDFBitmap_GetHeight(bitmap),
  };
  const stride = library.FPDFBitmap_GetStride(bitmap);
  const format = library.FPDFBitmap_GetFormat(bitmap);
  const bytes = format === GREY ? 1 : format === BGR ? 3 : 4;
  const channels = format === GREY ? 1 : format === BGRA ? 4 : 3;
  const from = library.FPDFBitmap_GetBuffer(bitmap);
  const heap = heapOf(library).bytes;
  const samples = new Uint8Array(size.width * size.height * channels);
  for (let y = 0, to = 0; y < size.height; y++) {
    let at = from + y * stride;
    for (let x = 0; x < size.width; x++, at += bytes, to += channels) {
      if (channels === 1) samples[to] = heap[at]!;
      else {
        samples[to] = heap[at + 2]!;
        samples[to + 1] = heap[at + 1]!;
        samples[to + 2] = heap[at]!;
        if (channels === 4) samples[to + 3] = heap[at + 3]!;
      }
    }
  }
  return { size, channels: channels as 1 | 3 | 4, samples };
}

function lookAt(library: WrappedPdfiumModule, page: number): PdfPage {
  const size = sizeOf(library, page);
  const { images, others } = objectsOf(library, page);
  const pictures = images.flatMap((image) => placedPicture(library, image) ?? []);
  const [image] = images;
  const [placed] = pictures;
  const alone = images.length === 1 && others === 0 && image !== undefined && placed !== undefined;
  // One with a mask, or laid at an angle, is more than its samples.
  const plain = alone && !library.FPDFPageObj_HasTransparency(image.object);
  const upright = plain && library.FPDFPage_GetRotation(page) === 0 && image.upright;
  const picture = upright ? onePicture(library, image.object) : null;
  return { size, pictures, only: picture && placed ? { picture, placed } : null };
}

interface ImageObject {
  object: number;
  /** width and height on the page, in points */
  size: Size;
  upright: boolean;
}

/** The pictures on a page, also within forms, and how much else there is. */
function objectsOf(library: WrappedPdfiumModule, page: number) {
  const images: ImageObject[] = [];
  let others = 0;
  let left = OBJECT_LIMIT;
  const visit = (object: number, parent: Matrix, depth: number): void => {
    if (left-- <= 0) {
      others++;
      return;
    }
    const kind = library.FPDFPageObj_GetType(object);
    const matrix = times(matrixOf(library, object), parent);
    if (kind === IMAGE) {
      images.push({
        object,
        size: { width: Math.hypot(matrix[0], matrix[1]), height: Math.hypot(matrix[2], matrix[3]) },
        upright: matrix[0] > 0 && matrix[3] > 0 && Math.abs(matrix[1]) + Math.abs(matrix[2]) < 1e-3,
      });
    } else if (kind === FORM && depth < FORM_DEPTH) {
      const count = library.FPDFFormObj_CountObjects(object);
      for (let i = 0; i < count; i++) {
        visit(library.FPDFFormObj_GetObject(object, i), matrix, depth + 1);
      }
    } else others++;
  };
  const count = library.FPDFPage_CountObjects(page);
  for (let i = 0; i < Math.min(count, OBJECT_LIMIT); i++) {
    visit(library.FPDFPage_GetObject(page, i), [1, 0, 0, 1, 0, 0], 0);
  }
  return { images, others };
}

type Matrix = [number, number, number, number, number, number];

function matrixOf(library: WrappedPdfiumModule, object: number): Matrix {
  const { pdfium: memory } = library;
  const numbers = memory.wasmExports.malloc(24);
  try {
    if (!library.FPDFPageObj_GetMatrix(object, numbers)) return [1, 0, 0, 1, 0, 0];
    return [...heapOf(library).floats.subarray(numbers >> 2, (numbers >> 2) + 6)] as Matrix;
  } finally {
    memory.wasmExports.free(numbers);
  }
}

/** First `a`, then `b`. */
const times = (a: Matrix, b: Matrix): Matrix => [
  a[0] * b[0] + a[1] * b[2],
  a[0] * b[1] + a[1] * b[3],
  a[2] * b[0] + a[3] * b[2],
  a[2] * b[1] + a[3] * b[3],
  a[4] * b[0] + a[5] * b[2] + b[4],
  a[4] * b[1] + a[5] * b[3] + b[5],
];

function placedPicture(library: WrappedPdfiumModule, image: ImageObject): PlacedPicture | null {
  const { pdfium: memory } = library;
  const numbers = memory.wasmExports.malloc(8);
  try {
    if (!library.FPDFImageObj_GetImagePixelSize(image.object, numbers, numbers + 4)) return null;
    const [width, height] = heapOf(library).words.subarray(numbers >> 2, (numbers >> 2) + 2);
    const { width: widthPt, height: heightPt } = image.size;
    return width && height && widthPt > 0 && heightPt > 0
      ? { width, height, widthPt, heightPt }
      : null;
  } finally {
    memory.wasmExports.free(numbers);
  }
}

/** The picture as it is stored: a JPEG byte for byte, anything else as samples. */
function onePicture(library: WrappedPdfiumModule, object: number): OnePicture | null {
  const { pdfium: memory } = library;
  if (isPlainJpeg(library, object)) {
    const length = library.FPDFImageObj_GetImageDataRaw(object, 0, 0);
    const buffer = memory.wasmExports.malloc(length);
    try {
      library.FPDFImageObj_GetImageDataRaw(object, buffer, length);
      return { as: 'jpeg', bytes: heapOf(library).bytes.slice(buffer, buffer + length) };
    } finally {
      memory.wasmExports.free(buffer);
    }
  }
  const bitmap = library.FPDFImageObj_GetBitmap(object);
  if (!bitmap) return null;
  try {
    const format = library.FPDFBitmap_GetFormat(bitmap);
    if (![GREY, BGR, BGRX, BGRA].includes(format)) return null;
    return { as: 'samples', ...copied(library, bitmap) };
  } finally {
    library.FPDFBitmap_Destroy(bitmap);
  }
}

function isPlainJpeg(library: WrappedPdfiumModule, object: number): boolean {
  if (library.FPDFImageObj_GetImageFilterCount(object) !== 1) return false;
  const { pdfium: memory } = library;
  const buffer = memory.wasmExports.malloc(32);
  try {
    const length = library.FPDFImageObj_GetImageFilter(object, 0, buffer, 32);
    const word = Buffer.from(heapOf(library).bytes.slice(buffer, buffer + length - 1)).toString(
      'latin1',
    );
    return word === 'DCTDecode';
  } finally {
    memory.wasmExports.free(buffer);
  }
}
