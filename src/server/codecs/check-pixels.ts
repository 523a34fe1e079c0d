import { closeSync, openSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { crc32 } from 'node:zlib';
import sharp from 'sharp';
import type { Region, Size } from '@/core/raster/region';
import type { Depth } from '@/core/raster/samples';
import { readWhole } from '../files/whole-io';
import { openRaw } from './raw';

/** Sums of the samples that were computed: of every row of every part of a picture. */
export interface RowSums {
  part: Region;
  /** CRC-32 of each row's interleaved samples */
  sums: Uint32Array;
}

/** Rows of interleaved samples in a file, one after the other. */
export interface SampleFile {
  path: string;
  /** byte offset of the first row */
  start: number;
  size: Size;
  depth: Depth;
  channels: number;
}

/** The sum of one row of samples. */
export const rowSum = (row: Uint8Array): number => crc32(row);

/** Rows that are read at a time. */
const BAND = 128;

/**
 * Every row of a picture as sharp decodes it, which shares no code with the writers: into a file of plain
 * samples beside it, so that memory stays flat.
 */
async function* decodedRows(
  path: string,
  { size, depth, channels }: Omit<SampleFile, 'path' | 'start'>,
  signal?: AbortSignal,
): AsyncGenerator<{ y: number; row: Buffer }> {
  const plain = `${path}.part-check.v`;
  try {
    await sharp(path, {
      limitInputPixels: false,
      unlimited: true,
      sequentialRead: true,
      ignoreIcc: true,
    })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .toFile(plain);
    signal?.throwIfAborted();
    const decoded = await openRaw(plain);
    try {
      const line = (size.width * channels * depth) / 8;
      if (decoded.size.width !== size.width || decoded.channels !== channels) return;
      for (let y = 0; y < decoded.size.height; y += BAND) {
        signal?.throwIfAborted();
        const height = Math.min(BAND, decoded.size.height - y);
        const rows = await decoded.samples({ x: 0, y, width: size.width, height });
        for (let k = 0; k < height; k++) {
          yield { y: y + k, row: rows.subarray(k * line, (k + 1) * line) };
        }
      }
    } finally {
      await decoded.close();
    }
  } finally {
    await rm(plain, { force: true });
  }
}

/**
 * Reads a lossless file's pixels and compares them with what was computed.
 * @returns how many rows differ or are missing; 0 where every sample is as it was
 */
export async function differingRows(
  path: string,
  of: Omit<SampleFile, 'path' | 'start'>,
  computed: readonly RowSums[],
  signal?: AbortSignal,
): Promise<number> {
  const pixelBytes = (of.channels * of.depth) / 8;
  let same = 0;
  for await (const { y, row } of decodedRows(path, of, signal)) {
    const there = computed.filter(({ part }) => y >= part.y && y < part.y + part.height);
    const all = there.every(
      ({ part, sums }) =>
        rowSum(row.subarray(part.x * pixelBytes, (part.x + part.width) * pixelBytes)) ===
        sums[y - part.y],
    );
    if (all) same++;
  }
  return of.size.height - same;
}

/** Every so many rows of a lossy file are compared, and every so many samples of them. */
const ROWS = 37;
const SAMPLES = 5;

/**
 * Compares a lossy file with what it was made from, on sampled places.
 * @param from uncompressed rows of 8 bits
 * @returns root of the mean squared difference, in levels
 */
export async function lossyDifference(
  path: string,
  from: SampleFile,
  signal?: AbortSignal,
): Promise<number> {
  const line = from.size.width * from.channels;
  const was = Buffer.allocUnsafe(line);
  const file = openSync(from.path, 'r');
  let sum = 0;
  let count = 0;
  try {
    for await (const { y, row } of decodedRows(path, from, signal)) {
      if (y % ROWS !== 0) continue;
      readWhole(file, was, from.start + y * line);
      for (let i = 0; i < line; i += SAMPLES, count++) sum += (row[i]! - was[i]!) ** 2;
    }
  } finally {
    closeSync(file);
  }
  return count === 0 ? Infinity : Math.sqrt(sum / count);
}

/** More than this quality takes away on any picture, in levels: something else went wrong. */
export const mostDifference = (quality: number): number => 6 + 0.4 * (100 - quality);
