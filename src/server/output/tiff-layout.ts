import type { Size } from '@/core/raster/region';
import type { Depth } from '@/core/raster/samples';

/** What a TIFF says of itself besides its pixels. */
export interface TiffDescription {
  size: Size;
  depth: Depth;
  /** 3, or 4 with unassociated alpha */
  channels: 3 | 4;
  ppi: number;
  profile: Uint8Array | null;
  rowsPerStrip: number;
}

/** An uncompressed TIFF before its pixels: the bytes in front, and where each strip goes. */
export interface TiffLayout {
  header: Buffer;
  /** byte offset of each strip, top to bottom */
  offsets: number[];
  /** bytes of the whole file */
  bytes: number;
}

/** Beyond this many bytes offsets need 64 bits. */
const CLASSIC_LIMIT = 0xffff_ff00;

const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const UNDEFINED = 7;
const ASCII = 2;
const LONG8 = 16;
const WIDTH: Record<number, number> = {
  [SHORT]: 2,
  [LONG]: 4,
  [RATIONAL]: 8,
  [UNDEFINED]: 1,
  [ASCII]: 1,
  [LONG8]: 8,
};

interface Tag {
  id: number;
  type: number;
  values: readonly number[] | Uint8Array;
}

/**
 * Lays out an uncompressed, interleaved RGB(A) TIFF (TIFF 6.0; BigTIFF where it passes 4 GB), little-
 * endian. Strips have fixed places, so that they can be written in any order and by any thread.
 */
export function layOutTiff(description: TiffDescription): TiffLayout {
  const { size, depth, channels, rowsPerStrip } = description;
  const rowBytes = size.width * channels * (depth / 8);
  const strips = Math.ceil(size.height / rowsPerStrip);
  const pixelBytes = rowBytes * size.height;
  const big = pixelBytes + (description.profile?.length ?? 0) + strips * 8 + 4096 > CLASSIC_LIMIT;

  const counts = Array.from(
    { length: strips },
    (_, i) => Math.min(rowsPerStrip, size.height - i * rowsPerStrip) * rowBytes,
  );
  const place = (start: number) => counts.map((_, i) => start + i * rowsPerStrip * rowBytes);
  // The directory's length doesn't depend on the offsets in it, so it is laid out twice.
  const start = Math.ceil(directory(description, place(0), counts, big).length / 16) * 16;
  const offsets = place(start);
  const header = Buffer.alloc(start);
  directory(description, offsets, counts, big).copy(header);
  return { header, offsets, bytes: start + pixelBytes };
}

function directory(
  { size, depth, channels, ppi, profile, rowsPerStrip }: TiffDescription,
  offsets: number[],
  counts: number[],
  big: boolean,
): Buffer {
  const resolution = [Math.round(ppi * 10_000), 10_000];
  const place = big ? LONG8 : LONG;
  const tags: Tag[] = [
    { id: 256, type: LONG, values: [size.width] },
    { id: 257, type: LONG, values: [size.height] },
    { id: 258, type: SHORT, values: Array.from({ length: channels }, () => depth) },
    { id: 259, type: SHORT, values: [1] },
    { id: 262, type: SHORT, values: [2] },
    { id: 273, type: place, values: offsets },
    { id: 277, type: SHORT, values: [channels] },
    { id: 278, type: LONG, values: [rowsPerStrip] },
    { id: 279, type: place, values: counts },
    { id: 282, type: RATIONAL, values: resolution },
    { id: 283, type: RATIONAL, values: resolution },
    { id: 284, type: SHORT, values: [1] },
    { id: 296, type: SHORT, values: [2] },
    { id: 305, type: ASCII, values: Buffer.from('Lontano\0') },
    // Colours are not multiplied by their coverage.
    ...(channels === 4 ? [{ id: 338, type: SHORT, values: [2] }] : []),
    ...(profile ? [{ id: 34675, type: UNDEFINED, values: profile }] : []),
  ];
  const word = big ? 8 : 4;
  const entryBytes = big ? 20 : 12;
  const head = big ? 16 : 8;
  const countBytes = big ? 8 : 2;
  const listEnd = head + countBytes + tags.length * entryBytes + word;
  const bodies = tags.map(encode);
  const far = bodies.reduce((sum, body) => sum + (body.length > word ? even(body.length) : 0), 0);
  const out = Buffer.alloc(listEnd + far);

  out.write('II', 0, 'latin1');
  out.writeUInt16LE(big ? 43 : 42, 2);
  if (big) {
    out.writeUInt16LE(8, 4);
    out.writeBigUInt64LE(16n, 8);
    out.writeBigUInt64LE(BigInt(tags.length), 16);
  } else {
    out.writeUInt32LE(8, 4);
    out.writeUInt16LE(tags.length, 8);
  }
  let at = head + countBytes;
  let free = listEnd;
  tags.forEach((tag, i) => {
    const body = bodies[i]!;
    const items = body.length / WIDTH[tag.type]!;
    out.writeUInt16LE(tag.id, at);
    out.writeUInt16LE(tag.type, at + 2);
    if (big) out.writeBigUInt64LE(BigInt(items), at + 4);
    else out.writeUInt32LE(items, at + 4);
    const valueAt = at + 4 + word;
    if (body.length <= word) {
      body.copy(out, valueAt);
    } else {
      if (big) out.writeBigUInt64LE(BigInt(free), valueAt);
      else out.writeUInt32LE(free, valueAt);
      body.copy(out, free);
      free += even(body.length);
    }
    at += entryBytes;
  });
  return out;
}

const even = (bytes: number): number => bytes + (bytes & 1);

function encode({ type, values }: Tag): Buffer {
  if (values instanceof Uint8Array) return Buffer.from(values);
  if (type === LONG8) {
    const out = Buffer.alloc(values.length * 8);
    values.forEach((value, i) => out.writeBigUInt64LE(BigInt(value), i * 8));
    return out;
  }
  const width = type === SHORT ? 2 : 4;
  const out = Buffer.alloc(values.length * width);
  values.forEach((value, i) =>
    width === 2 ? out.writeUInt16LE(value, i * 2) : out.writeUInt32LE(value, i * 4),
  );
  return out;
}
