import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium';
import type { Size } from '@/core/raster/region';

/** Bitmap formats: bytes a pixel in the order blue, green, red (alpha). */
const GREY = 1;
const BGR = 2;
const BGRA = 4;

export type Pdfium = WrappedPdfiumModule;

let loading: Promise<Pdfium> | undefined;

/** The library, loaded once. */
export async function pdfium(): Promise<Pdfium> {
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
export function heapOf(library: Pdfium) {
  const heap = library.pdfium as unknown as {
    HEAPU8: Uint8Array;
    HEAPU32: Uint32Array;
    HEAPF32: Float32Array;
  };
  return { bytes: heap.HEAPU8, words: heap.HEAPU32, floats: heap.HEAPF32 };
}

/** Lends so many bytes of the library's memory. */
export function withMemory<T>(library: Pdfium, bytes: number, use: (at: number) => T): T {
  const { malloc, free } = library.pdfium.wasmExports;
  const at = malloc(bytes);
  if (!at) throw new Error('pdf: no memory');
  try {
    return use(at);
  } finally {
    free(at);
  }
}

/** Interleaved 8-bit samples without padding. */
export interface Samples {
  size: Size;
  channels: 1 | 3 | 4;
  samples: Uint8Array;
}

/** A bitmap's samples in the order red, green, blue (alpha). */
export function copied(library: Pdfium, bitmap: number): Samples {
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
  return { size, channels, samples };
}

/** Lends an empty bitmap with alpha. */
export function withBitmap<T>(library: Pdfium, size: Size, use: (bitmap: number) => T): T {
  const bitmap = library.FPDFBitmap_CreateEx(size.width, size.height, BGRA, 0, 0);
  if (!bitmap) throw new Error('pdf: no memory for a drawing');
  try {
    return use(bitmap);
  } finally {
    library.FPDFBitmap_Destroy(bitmap);
  }
}

/** Fills a bitmap with alpha, of the same size, with samples. */
export function fill(library: Pdfium, bitmap: number, { size, channels, samples }: Samples): void {
  const stride = library.FPDFBitmap_GetStride(bitmap);
  const to = library.FPDFBitmap_GetBuffer(bitmap);
  const heap = heapOf(library).bytes;
  const grey = channels === 1;
  for (let y = 0, from = 0; y < size.height; y++) {
    let at = to + y * stride;
    for (let x = 0; x < size.width; x++, at += 4, from += channels) {
      heap[at] = samples[grey ? from : from + 2]!;
      heap[at + 1] = samples[grey ? from : from + 1]!;
      heap[at + 2] = samples[from]!;
      heap[at + 3] = channels === 4 ? samples[from + 3]! : 255;
    }
  }
}
