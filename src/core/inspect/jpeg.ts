import { z } from 'zod';
import { estimateQuality } from './jpeg-quality';

/** 64 quantisation steps in levels, row by row (not zigzag). */
export const QuantTable = z.array(z.int().min(1).max(65535)).length(64);
export type QuantTable = z.infer<typeof QuantTable>;

/** How a JPEG was compressed, as its header says, and where its blocks lie on the decoded picture. */
export const JpegFacts = z.object({
  luma: QuantTable,
  /** null for grey pictures */
  chroma: QuantTable.nullable(),
  /** luminance samples to one colour sample, across and down: 1, 2 or 4 */
  samplingX: z.int().min(1).max(4),
  samplingY: z.int().min(1).max(4),
  progressive: z.boolean(),
  /** the usual encoders' setting, 1–100, or null where the tables aren't the common ones */
  quality: z.int().min(1).max(100).nullable(),
  /** where the first whole or cut block begins, -15 to 0; 0 unless the picture was turned */
  gridX: z.int().min(-31).max(0),
  gridY: z.int().min(-31).max(0),
});
export type JpegFacts = z.infer<typeof JpegFacts>;

/** Where a block of a file's own compression begins, 0–7 across and down; null where it has none. */
export const ownGrid = (jpeg: JpegFacts | null): { x: number; y: number } | null =>
  jpeg && { x: (jpeg.gridX + 64) % 8, y: (jpeg.gridY + 64) % 8 };

/** What a JPEG's header tells before anything is decoded. */
export interface JpegHeader {
  width: number;
  height: number;
  components: number;
  /** compression facts; null for colour systems that aren't YCbCr or grey */
  facts: JpegFacts | null;
}

/** Row-by-row position of the k-th coefficient in zigzag order (ITU-T T.81, figure A.6). */
const ZIGZAG = [
  0, 1, 8, 16, 9, 2, 3, 10, 17, 24, 32, 25, 18, 11, 4, 5, 12, 19, 26, 33, 40, 48, 41, 34, 27, 20,
  13, 6, 7, 14, 21, 28, 35, 42, 49, 56, 57, 50, 43, 36, 29, 22, 15, 23, 30, 37, 44, 51, 58, 59, 52,
  45, 38, 31, 39, 46, 53, 60, 61, 54, 47, 55, 62, 63,
];

const SOF = new Set([0xc0, 0xc1, 0xc2]);

/** Whether bytes begin as a JPEG does. */
export const isJpeg = (bytes: Uint8Array): boolean => bytes[0] === 0xff && bytes[1] === 0xd8;

/**
 * Reads a JPEG's header up to its first scan (ITU-T T.81, annex B).
 * @param bytes the file, or as much of its beginning as holds the header
 * @returns null where the header is incomplete or isn't one of baseline, extended or progressive
 */
export function readJpegHeader(bytes: Uint8Array): JpegHeader | null {
  if (!isJpeg(bytes)) return null;
  const tables = new Map<number, number[]>();
  let frame: Frame | null = null;
  let app14Transform: number | null = null;
  let at = 2;
  while (at + 4 <= bytes.length) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1]!;
    if (marker === 0xff) {
      at++;
      continue;
    }
    const length = (bytes[at + 2]! << 8) | bytes[at + 3]!;
    const body = bytes.subarray(at + 4, at + 2 + length);
    if (length < 2 || body.length < length - 2) return null;
    if (marker === 0xdb && !readTables(body, tables)) return null;
    if (SOF.has(marker)) frame = readFrame(body, marker === 0xc2);
    if (marker === 0xee && body.length >= 12) {
      app14Transform = body[11] ?? null;
    }
    if (marker === 0xda) return frame && header(frame, tables, app14Transform);
    if (marker === 0xd9) return null;
    at += 2 + length;
  }
  return null;
}

interface Frame {
  width: number;
  height: number;
  progressive: boolean;
  components: { across: number; down: number; table: number }[];
}

function readTables(body: Uint8Array, tables: Map<number, number[]>): boolean {
  for (let at = 0; at < body.length;) {
    const wide = body[at]! >> 4 === 1;
    const bytes = wide ? 128 : 64;
    if (at + 1 + bytes > body.length) return false;
    const table = new Array<number>(64);
    for (let k = 0; k < 64; k++) {
      const from = at + 1 + (wide ? 2 * k : k);
      table[ZIGZAG[k]!] = wide ? (body[from]! << 8) | body[from + 1]! : body[from]!;
    }
    tables.set(body[at]! & 15, table);
    at += 1 + bytes;
  }
  return true;
}

function readFrame(body: Uint8Array, progressive: boolean): Frame | null {
  const count = body[5] ?? 0;
  if (body.length < 6 + 3 * count) return null;
  return {
    height: (body[1]! << 8) | body[2]!,
    width: (body[3]! << 8) | body[4]!,
    progressive,
    components: Array.from({ length: count }, (_, i) => ({
      across: body[7 + 3 * i]! >> 4,
      down: body[7 + 3 * i]! & 15,
      table: body[8 + 3 * i]!,
    })),
  };
}

function header(
  frame: Frame,
  tables: Map<number, number[]>,
  app14Transform: number | null,
): JpegHeader {
  const { width, height, progressive, components } = frame;
  const [first, second] = components;
  const known = components.length === 1 || (components.length === 3 && app14Transform !== 0);
  const luma = QuantTable.safeParse(first && tables.get(first.table));
  const chroma = QuantTable.safeParse(second && tables.get(second.table));
  const usable = known && luma.success && (!second || chroma.success);
  if (!usable) return { width, height, components: components.length, facts: null };
  const facts = JpegFacts.safeParse({
    luma: luma.data,
    chroma: chroma.data ?? null,
    samplingX: second ? first!.across / second.across : 1,
    samplingY: second ? first!.down / second.down : 1,
    progressive,
    quality: estimateQuality(luma.data, chroma.data ?? null),
    gridX: 0,
    gridY: 0,
  });
  return { width, height, components: components.length, facts: facts.data ?? null };
}

/**
 * The facts for the picture as it stands after its EXIF orientation (1–8) was applied: tables and
 * sampling turn with it, and a grid that began at the left edge may now begin outside it.
 * @param width,height of the picture as stored
 */
export function orientJpeg(
  facts: JpegFacts,
  orientation: number,
  width: number,
  height: number,
): JpegFacts {
  const transposed = orientation >= 5;
  // Counted on the stored picture: along which axes does the turned one run backwards?
  const flipX = [2, 3, 7, 8].includes(orientation);
  const flipY = [3, 4, 6, 7].includes(orientation);
  const unitX = 8 * facts.samplingX;
  const unitY = 8 * facts.samplingY;
  const gridX = flipX && width % unitX ? (width % unitX) - unitX : 0;
  const gridY = flipY && height % unitY ? (height % unitY) - unitY : 0;
  if (!transposed) return { ...facts, gridX, gridY };
  const turn = (table: QuantTable) => table.map((_, i) => table[(i % 8) * 8 + (i >> 3)]!);
  return {
    ...facts,
    luma: turn(facts.luma),
    chroma: facts.chroma && turn(facts.chroma),
    samplingX: facts.samplingY,
    samplingY: facts.samplingX,
    gridX: gridY,
    gridY: gridX,
  };
}
