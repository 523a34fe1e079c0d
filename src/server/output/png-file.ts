import { closeSync, openSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { crc32, deflateSync } from 'node:zlib';
import { titled, type Facts } from '@/core/output/facts';
import { readWhole } from '../files/whole-io';
import { exifBlock, type KeptExif } from './exif';
import type { Packing } from './packed';
import { PNG_SIGNATURE, pngChunk, pngHeader } from './png-chunks';
import type { ShareDone } from './result-writer';
import type { ReadRow, SampleFile, SampleForm } from './samples';
import { unfilteredRows } from './stream-rows';
import { packedStream } from './zlib-stream';

const INCH = 0.0254;
/** A unit of pHYs: pixels a metre. */
const METRE = 1;
/** Kinds of colour, by their samples a pixel. */
const COLOUR: Record<number, number> = { 1: 0, 2: 4, 3: 2, 4: 6 };

/** What a PNG carries besides its samples. */
interface PngTags extends Packing {
  ppi: number;
  profile: Uint8Array | null;
  facts?: Facts | null | undefined;
  exif?: KeptExif | null | undefined;
  told?: ShareDone;
}

/**
 * Writes plain samples as a PNG, block after block: memory is the same whatever its size.
 * @throws the signal's reason where aborted
 */
export async function writePngFile(
  path: string,
  samples: SampleFile,
  { ppi, profile, facts, exif, told = () => {}, ...by }: PngTags,
): Promise<void> {
  const { size, depth, channels } = samples;
  const out = await open(path, 'w');
  const write = (type: string, data: Uint8Array) => out.writeFile(pngChunk(type, data));
  try {
    await out.writeFile(PNG_SIGNATURE);
    const colour = COLOUR[channels]!;
    await write('IHDR', pngHeader(size.width, size.height, { bits: depth, colour }));
    if (profile) {
      const named = Buffer.from('profile\0\0', 'latin1');
      await write('iCCP', Buffer.concat([named, deflateSync(profile)]));
    }
    const resolution = Buffer.alloc(9);
    resolution.writeUInt32BE(Math.round(ppi / INCH), 0);
    resolution.writeUInt32BE(Math.round(ppi / INCH), 4);
    resolution[8] = METRE;
    await write('pHYs', resolution);
    if (exif) await write('eXIf', exifBlock(exif));
    if (facts) await write('iTXt', Buffer.from(`Title\0\0\0\0\0${titled(facts)}`, 'utf8'));
    for await (const piece of packedStream(samples, 'filtered', by, told))
      await write('IDAT', piece);
    await write('IEND', Buffer.alloc(0));
  } finally {
    await out.close();
  }
}

/**
 * Every row of a PNG as `writePngFile` makes it, with memory for two rows: for those that are too wide for other
 * readers. A row's bytes hold until the next one is asked for.
 * @throws Error where the file is damaged or another kind of PNG
 */
export const pngRows = (
  path: string,
  form: SampleForm,
  signal?: AbortSignal,
): AsyncGenerator<ReadRow> => unfilteredRows(compressedParts(path, signal), form);

const CHUNK_HEAD = 8;
const CHUNK_SUM = 4;

/** What a PNG's IDAT chunks hold. @throws Error where a chunk is not what its sum says */
async function* compressedParts(path: string, signal?: AbortSignal): AsyncGenerator<Buffer> {
  const file = openSync(path, 'r');
  const head = Buffer.alloc(CHUNK_HEAD);
  try {
    for (let at = PNG_SIGNATURE.length, type = ''; type !== 'IEND';) {
      signal?.throwIfAborted();
      readWhole(file, head, at);
      type = head.toString('latin1', 4);
      const length = head.readUInt32BE(0);
      if (type === 'IDAT') {
        const chunk = Buffer.allocUnsafe(length + CHUNK_SUM);
        readWhole(file, chunk, at + CHUNK_HEAD);
        const data = chunk.subarray(0, length);
        if (crc32(data, crc32(head.subarray(4))) !== chunk.readUInt32BE(length)) {
          throw new Error('a part of the PNG is damaged');
        }
        yield data;
      }
      at += CHUNK_HEAD + length + CHUNK_SUM;
    }
  } finally {
    closeSync(file);
  }
}
