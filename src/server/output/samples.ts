import { crc32 } from 'node:zlib';
import type { DeviceSpace } from '@/core/colour/space';
import type { Region, Size } from '@/core/raster/region';
import type { Depth } from '@/core/raster/samples';

/** Sums of the samples that were computed: of every row of every part of a picture. */
export interface RowSums {
  part: Region;
  /** CRC-32 of each row's interleaved samples */
  sums: Uint32Array;
}

/** What a picture's samples are. */
export interface SampleForm {
  size: Size;
  depth: Depth;
  channels: number;
  /** what the colours among them are */
  space: DeviceSpace;
}

/** Bytes of a row. */
export const lineOf = ({ size, channels, depth }: SampleForm): number =>
  (size.width * channels * depth) / 8;

/** A row of a finished file, as it is read from it. */
export interface ReadRow {
  y: number;
  row: Uint8Array;
}

/** Rows of interleaved samples in a file, one after the other. */
export interface SampleFile extends SampleForm {
  path: string;
  /** byte offset of the first row */
  start: number;
  /** of a part of a larger picture: where it begins there, and how far apart its rows lie, in bytes */
  within?: { x: number; y: number; stride: number };
}

/** A part of a file of samples. */
export function partOf(file: SampleFile, { x, y, width, height }: Region): SampleFile {
  const stride = lineOf(file);
  const start = file.start + y * stride + (x * file.channels * file.depth) / 8;
  return { ...file, size: { width, height }, start, within: { x, y, stride } };
}

/** The sum of one row of samples. */
export const rowSum = (row: Uint8Array): number => crc32(row);
