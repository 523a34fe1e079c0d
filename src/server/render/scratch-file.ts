import { closeSync, openSync } from 'node:fs';
import { crc32 } from 'node:zlib';
import { emptyRaster, paste, type Raster } from '@/core/raster/raster';
import { cells, whole, within, type Region, type Size } from '@/core/raster/region';
import type { Source } from '@/core/raster/source';
import type { NodeJob } from '@/core/render/schedule';
import { readWhole, writeWhole } from '../files/whole-io';
import { fromFixed, toFixed } from '@/core/raster/fixed';
import { planeCount, type Form } from '@/core/raster/form';

/**
 * The pixels of a node of a run's graph, in blocks: computed once for all that comes after it,
 * so that a run's time grows with the picture and not with what follows.
 */
export interface ScratchFile {
  path: string;
  /** the node's hash */
  hash: string;
  size: Size;
  form: Form;
  /** whether its values are kept as numbers of 16 bits */
  fixed: boolean;
  /** sides of its blocks */
  block: Size;
}

/** Where a job's node is materialised. Its parts are the blocks of the file. */
export const scratchFor = ({ node, parts }: NodeJob, path: string): ScratchFile => {
  const { width, height } = parts[0]!;
  const { hash, size, form, fixed = false } = node;
  return { path, hash, size, form, fixed, block: { width, height } };
};

/** Blocks of a scratch file, in the order in which they lie in it. */
const blocksOf = ({ size, block }: ScratchFile): Region[] => cells(whole(size), block, size);

const valueBytes = ({ fixed }: ScratchFile): number => (fixed ? 2 : 4);

const blockBytes = (file: ScratchFile): number =>
  file.block.width * file.block.height * planeCount(file.form) * valueBytes(file);

/** Bytes of the whole file. */
export const scratchBytes = (file: ScratchFile): number => blocksOf(file).length * blockBytes(file);

const bytesOf = (values: Float32Array | Uint16Array): Uint8Array =>
  new Uint8Array(values.buffer, values.byteOffset, values.byteLength);

/** Writes one block at its place. @returns the CRC-32 of its bytes @throws Error on a full disk */
export function writeBlock(file: ScratchFile, index: number, raster: Raster): number {
  const handle = openSync(file.path, 'r+');
  try {
    let at = index * blockBytes(file);
    let sum = 0;
    for (const plane of raster.planes) {
      const bytes = bytesOf(file.fixed ? toFixed(plane) : plane);
      writeWhole(handle, bytes, at);
      at += bytes.length;
      sum = crc32(bytes, sum);
    }
    return sum;
  } finally {
    closeSync(handle);
  }
}

/** Whether a block lies there as it was written. */
export function isBlockWhole(file: ScratchFile, index: number, sum: number): boolean {
  const { width, height } = blocksOf(file)[index]!;
  const bytes = new Uint8Array(width * height * planeCount(file.form) * valueBytes(file));
  const handle = openSync(file.path, 'r');
  try {
    readWhole(handle, bytes, index * blockBytes(file));
    return crc32(bytes) === sum;
  } catch {
    return false;
  } finally {
    closeSync(handle);
  }
}

/** A source that reads a scratch file: of each block just the rows that are asked for. */
export function openScratch(file: ScratchFile): Source & { close(): void } {
  const { size, form, fixed } = file;
  const each = valueBytes(file);
  const handle = openSync(file.path, 'r');
  const blocks = blocksOf(file);
  return {
    size,
    close: () => closeSync(handle),
    read: async (region) => {
      const raster = emptyRaster(region.width, region.height, form);
      blocks.forEach((block, i) => {
        const part = within(block, region);
        if (part.width === 0 || part.height === 0) return;
        const laid = { ...part, x: block.x, width: block.width };
        const rows = emptyRaster(block.width, part.height, form);
        const kept = fixed ? new Uint16Array(block.width * part.height) : null;
        rows.planes.forEach((plane, c) => {
          const before = (c * block.height + part.y - block.y) * block.width * each;
          readWhole(handle, bytesOf(kept ?? plane), i * blockBytes(file) + before);
          if (kept) fromFixed(kept, plane);
        });
        paste({ region: laid, raster: rows }, { region, raster });
      });
      return raster;
    },
  };
}
