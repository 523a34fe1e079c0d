import { COLOURS } from '@/core/colour/space';
import type { Facts } from '@/core/output/facts';
import type { KeptExif } from './exif';
import type { SampleForm } from './samples';

/** What a TIFF says of itself besides its pixels. */
export interface TiffDescription extends SampleForm {
  ppi: number;
  profile: Uint8Array | null;
  rowsPerStrip: number;
  facts?: Facts | null | undefined;
  exif?: KeptExif | null | undefined;
}

/** An uncompressed TIFF before its pixels: the bytes in front, and where each strip goes. */
export interface TiffLayout {
  header: Buffer;
  /** byte offset of each strip, top to bottom */
  offsets: number[];
  /** bytes of the whole file */
  bytes: number;
}

/** How strips are packed, by the number in the tag. */
const PACKED = { none: 1, lzw: 5, deflate: 8 } as const;
export type TiffPacking = keyof typeof PACKED;

/** What the numbers of a pixel are, by the number in the tag. */
const PHOTOMETRIC = { grey: 1, rgb: 2, cmyk: 5 } as const;

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
 * Lays out an uncompressed, interleaved TIFF (TIFF 6.0; BigTIFF where it passes 4 GB), little-
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
  const front = headerBytes(big);
  const directoryOf = (offsets: number[]) =>
    directory(description, { offsets, counts, packing: 'none', big, at: front });
  const start = Math.ceil((front + directoryOf(place(0)).length) / 16) * 16;
  const offsets = place(start);
  const header = Buffer.alloc(start);
  fileHeader(front, big).copy(header);
  directoryOf(offsets).copy(header, front);
  return { header, offsets, bytes: start + pixelBytes };
}

/** Where packed strips begin: after the header of either form. */
export const FIRST_STRIP = 16;

/**
 * What a TIFF of packed strips begins and ends with, once they lie in the file.
 * @param offsets byte offset of each strip
 * @param counts bytes of each
 * @param at byte offset at which the directory is written
 */
export function closeTiff(
  description: TiffDescription,
  strips: { offsets: number[]; counts: number[]; packing: TiffPacking; at: number },
): { header: Buffer; directory: Buffer } {
  const { at, counts } = strips;
  // The directory itself, with its lists, has to be within reach too.
  const big = at + (description.profile?.length ?? 0) + counts.length * 8 + 4096 > CLASSIC_LIMIT;
  return {
    header: fileHeader(at, big),
    directory: directory(description, { ...strips, big }),
  };
}

const headerBytes = (big: boolean): number => (big ? 16 : 8);

/** The first bytes of a file, which say where its directory is. */
function fileHeader(at: number, big: boolean): Buffer {
  const out = Buffer.alloc(headerBytes(big));
  out.write('II', 0, 'latin1');
  out.writeUInt16LE(big ? 43 : 42, 2);
  if (big) {
    out.writeUInt16LE(8, 4);
    out.writeBigUInt64LE(BigInt(at), 8);
  } else out.writeUInt32LE(at, 4);
  return out;
}

/** The strips of a file, and where its directory lies. */
interface Strips {
  offsets: number[];
  counts: number[];
  packing: TiffPacking;
  big: boolean;
  at: number;
}

function tagsOf(
  { size, depth, channels, space, ppi, profile, rowsPerStrip, facts, exif }: TiffDescription,
  { offsets, counts, packing, big }: Strips,
): Tag[] {
  const resolution = [Math.round(ppi * 10_000), 10_000];
  const place = big ? LONG8 : LONG;
  const text = (id: number, words: string | undefined): Tag[] =>
    words ? [{ id, type: ASCII, values: Buffer.from(`${words}\0`) }] : [];
  return [
    { id: 256, type: LONG, values: [size.width] },
    { id: 257, type: LONG, values: [size.height] },
    { id: 258, type: SHORT, values: Array.from({ length: channels }, () => depth) },
    { id: 259, type: SHORT, values: [PACKED[packing]] },
    { id: 262, type: SHORT, values: [PHOTOMETRIC[space]] },
    ...text(269, facts?.job),
    ...text(270, facts?.title),
    ...text(271, exif?.IFD0['Make']),
    ...text(272, exif?.IFD0['Model']),
    { id: 273, type: place, values: offsets },
    { id: 277, type: SHORT, values: [channels] },
    { id: 278, type: LONG, values: [rowsPerStrip] },
    { id: 279, type: place, values: counts },
    { id: 282, type: RATIONAL, values: resolution },
    { id: 283, type: RATIONAL, values: resolution },
    { id: 284, type: SHORT, values: [1] },
    { id: 296, type: SHORT, values: [2] },
    ...text(305, 'Lontano'),
    ...text(315, exif?.IFD0['Artist']),
    // Differences from the pixel to the left.
    ...(packing === 'none' ? [] : [{ id: 317, type: SHORT, values: [2] }]),
    ...(space === 'cmyk' ? [{ id: 332, type: SHORT, values: [1] }] : []),
    // Colours are not multiplied by their coverage.
    ...(channels > COLOURS[space] ? [{ id: 338, type: SHORT, values: [2] }] : []),
    ...text(33432, exif?.IFD0['Copyright']),
    ...(profile ? [{ id: 34675, type: UNDEFINED, values: profile }] : []),
  ];
}

/** A directory of tags as it lies at its place, values that don't fit into them behind it. */
function directory(description: TiffDescription, strips: Strips): Buffer {
  const { big, at: place } = strips;
  const tags = tagsOf(description, strips);
  const word = big ? 8 : 4;
  const entryBytes = big ? 20 : 12;
  const countBytes = big ? 8 : 2;
  const listEnd = countBytes + tags.length * entryBytes + word;
  const bodies = tags.map(encode);
  const far = bodies.reduce((sum, body) => sum + (body.length > word ? even(body.length) : 0), 0);
  const out = Buffer.alloc(listEnd + far);
  if (big) out.writeBigUInt64LE(BigInt(tags.length), 0);
  else out.writeUInt16LE(tags.length, 0);
  let at = countBytes;
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
      if (big) out.writeBigUInt64LE(BigInt(place + free), valueAt);
      else out.writeUInt32LE(place + free, valueAt);
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
