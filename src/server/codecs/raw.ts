import { open, type FileHandle } from 'node:fs/promises';
import type { Raster } from '@/core/raster/raster';
import type { Region, Size } from '@/core/raster/region';
import { fromSamples, samplesIn, type Depth } from '@/core/raster/samples';
import { readWhole, writeWhole } from '../files/whole-io';
import type { SampleSource } from '@/core/raster/source';

/** Bytes before the first sample in libvips' file form. */
export const HEADER = 64;
/** libvips' numbers for unsigned 8- and 16-bit samples. */
const UCHAR = 0;
const USHORT = 2;
/** Its first bytes where samples are little-endian, as on every machine this runs on. */
const MAGIC = 0x08f2a6b6;

/** Four inks and transparency. */
const MOST_CHANNELS = 5;

/** Coding and type of libvips' form: plain samples, sRGB or its 16-bit kin. */
const SRGB = 22;
const RGB16 = 25;

/** The bytes before the samples in libvips' file form. */
export function rawHeader(size: Size, channels: number, depth: Depth): Buffer {
  const header = Buffer.alloc(HEADER);
  header.writeUInt32LE(MAGIC, 0);
  header.writeInt32LE(size.width, 4);
  header.writeInt32LE(size.height, 8);
  header.writeInt32LE(channels, 12);
  header.writeInt32LE(depth === 8 ? UCHAR : USHORT, 20);
  header.writeInt32LE(depth === 8 ? SRGB : RGB16, 28);
  header.writeFloatLE(1, 32);
  header.writeFloatLE(1, 36);
  return header;
}

/** Writes whole rows of samples at their place in a file of decoded pixels. */
export const writeRawRows = (
  file: FileHandle,
  samples: Uint8Array,
  row: number,
  rowBytes: number,
): void => writeWhole(file.fd, samples, HEADER + row * rowBytes);

/** Decoded pixels on disk: a source for the core, and raw regions for the preview. */
export interface RawFile extends SampleSource {
  samples(region: Region): Promise<Buffer>;
  close(): Promise<void>;
}

/** Of every row of `whole` bytes the `length` from `start` on. */
function cutRows(rows: Buffer, whole: number, start: number, length: number): Buffer {
  const count = rows.length / whole;
  const result = Buffer.allocUnsafe(length * count);
  for (let y = 0; y < count; y++) {
    rows.copy(result, y * length, y * whole + start, y * whole + start + length);
  }
  return result;
}

/** Opens pixels that `decode` left. */
export async function openRaw(path: string): Promise<RawFile> {
  const handle = await open(path, 'r');
  const header = Buffer.alloc(HEADER);
  await handle.read(header, 0, HEADER, 0);
  const size: Size = { width: header.readInt32LE(4), height: header.readInt32LE(8) };
  const channels = header.readInt32LE(12);
  const form = header.readInt32LE(20);
  if (
    header.readUInt32LE(0) !== MAGIC ||
    channels < 1 ||
    channels > MOST_CHANNELS ||
    (form !== UCHAR && form !== USHORT)
  ) {
    await handle.close();
    throw new Error(`not decoded pixels: ${path}`);
  }
  const depth: Depth = form === UCHAR ? 8 : 16;
  return samplesOf(handle, { size, channels, depth, start: HEADER });
}

/** Where rows of interleaved samples lie in a file, one after the other, and what they are. */
export interface SampleRows {
  size: Size;
  channels: number;
  depth: Depth;
  /** byte offset of the first row */
  start: number;
}

/** Opens a file of plain samples, such as an uncompressed TIFF. */
export const openSamples = async (path: string, rows: SampleRows): Promise<RawFile> =>
  samplesOf(await open(path, 'r'), rows);

function samplesOf(handle: FileHandle, { size, channels, depth, start }: SampleRows): RawFile {
  const pixelBytes = (channels * depth) / 8;

  const samples = async (region: Region): Promise<Buffer> => {
    const line = region.width * pixelBytes;
    const whole = size.width * pixelBytes;
    const at = start + region.y * whole;
    // Whole rows in one go, unless most of them would be read for nothing.
    if (region.width * 4 >= size.width) {
      const rows = Buffer.allocUnsafe(whole * region.height);
      readWhole(handle.fd, rows, at);
      return region.width === size.width ? rows : cutRows(rows, whole, region.x * pixelBytes, line);
    }
    const buffer = Buffer.allocUnsafe(line * region.height);
    for (let y = 0; y < region.height; y++) {
      const row = buffer.subarray(y * line, (y + 1) * line);
      readWhole(handle.fd, row, at + y * whole + region.x * pixelBytes);
    }
    return buffer;
  };

  return {
    size,
    depth,
    channels,
    samples,
    read: async (region): Promise<Raster> => {
      const values = samplesIn(await samples(region), depth);
      return fromSamples(values, region.width, region.height, channels, depth);
    },
    close: () => handle.close(),
  };
}
