import { crc32 } from 'node:zlib';

export const PNG_SIGNATURE = Buffer.from('\x89PNG\r\n\x1a\n', 'latin1');

/** A chunk of a PNG, with its length and sum (ISO/IEC 15948, 5.3). */
export function pngChunk(type: string, data: Uint8Array): Buffer {
  const framed = Buffer.alloc(data.length + 12);
  framed.writeUInt32BE(data.length, 0);
  framed.write(type, 4, 'latin1');
  framed.set(data, 8);
  framed.writeUInt32BE(crc32(framed.subarray(4, 8 + data.length)), 8 + data.length);
  return framed;
}

/** What a PNG's first chunk says of it: its sides, bits, kind of colour, and whether it is interlaced. */
export function pngHeader(
  width: number,
  height: number,
  { bits = 8, colour = 2, interlaced = 0 } = {},
): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([bits, colour, 0, 0, interlaced], 8);
  return header;
}
