import { closeSync, openSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import type { DeviceSpace } from '@/core/colour/space';
import type { Depth } from '@/core/raster/samples';
import { openRaw } from '../codecs/raw';
import { readWhole } from '../files/whole-io';
import { withTiff, type TiffTag } from '../codecs/tiff-tags';
import { lineOf, rowSum } from './samples';
import type { ShareDone } from './result-writer';
import type { ReadRow, RowSums, SampleFile, SampleForm } from './samples';

// A run that is made anew writes another file in the same place: what was read there before must not be shown again.
sharp.cache(false);

/** Rows that are read at a time. */
const BAND = 128;

/**
 * Every row of an uncompressed TIFF, where its own tags say that it lies. Memory stays flat.
 * @throws Error where the file ends before its last row
 */
export async function* tiffRows(
  path: string,
  form: SampleForm,
  signal?: AbortSignal,
): AsyncGenerator<ReadRow> {
  const line = lineOf(form);
  const { offsets, counts, rowsPerStrip, uncompressed } = await withTiff(path, async (tags) => {
    const list = async (tag: TiffTag) =>
      Array.from((await tags.loadValue(tag)) as ArrayLike<number | bigint>, Number);
    return {
      offsets: await list('StripOffsets'),
      counts: await list('StripByteCounts'),
      rowsPerStrip: Number(await tags.loadValue('RowsPerStrip')),
      uncompressed: Number(await tags.loadValue('Compression')) === 1,
    };
  });
  if (!uncompressed) return;
  const file = openSync(path, 'r');
  // One for all: a row is done with before the next strip is read.
  const strip = Buffer.allocUnsafe(rowsPerStrip * line);
  try {
    for (const [i, offset] of offsets.entries()) {
      signal?.throwIfAborted();
      const rows = Math.min(rowsPerStrip, form.size.height - i * rowsPerStrip);
      if (counts[i] !== rows * line) return;
      const bytes = strip.subarray(0, rows * line);
      readWhole(file, bytes, offset);
      for (let k = 0; k < rows; k++) {
        yield { y: i * rowsPerStrip + k, row: bytes.subarray(k * line, (k + 1) * line) };
      }
    }
  } finally {
    closeSync(file);
  }
}

/**
 * Every row of a compressed picture as sharp decodes it: into a file of plain samples beside it, so that
 * memory stays flat.
 * @param beside where that file lies
 */
export async function* decodedRows(
  path: string,
  form: SampleForm,
  signal?: AbortSignal,
  beside = path,
): AsyncGenerator<ReadRow> {
  const { size, channels } = form;
  const line = lineOf(form);
  if (line * size.height <= IN_MEMORY) {
    yield* rowsInMemory(path, form);
    return;
  }
  const plain = `${beside}.part-check.v`;
  try {
    const read = { limitInputPixels: false, unlimited: true, sequentialRead: true };
    await inItsColours(sharp(path, { ...read, ignoreIcc: true }), form).toFile(plain);
    signal?.throwIfAborted();
    const decoded = await openRaw(plain);
    try {
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

/** Decoded samples of smaller pictures are held at once, which saves a file of them. */
const IN_MEMORY = 32 << 20;

async function* rowsInMemory(path: string, form: SampleForm): AsyncGenerator<ReadRow> {
  const read = { limitInputPixels: false, sequentialRead: true, ignoreIcc: true };
  const { data, info } = await inItsColours(sharp(path, read), form)
    .raw({ depth: form.depth === 16 ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true });
  if (info.width !== form.size.width || info.channels !== form.channels) return;
  const line = lineOf(form);
  for (let y = 0; y < info.height; y++) {
    yield { y, row: data.subarray(y * line, (y + 1) * line) };
  }
}

/** What sharp calls a file's colours, of 8 bits and of 16. */
const SPACES = {
  rgb: { 8: 'srgb', 16: 'rgb16' },
  grey: { 8: 'b-w', 16: 'grey16' },
  cmyk: { 8: 'cmyk', 16: 'cmyk' },
} as const satisfies Record<DeviceSpace, Record<Depth, string>>;

/** A picture on its way through sharp that stays in its own colours. */
export const inItsColours = (
  picture: Sharp,
  { space, depth }: Pick<SampleForm, 'space' | 'depth'>,
): Sharp =>
  (space === 'cmyk' ? picture.pipelineColourspace('cmyk') : picture).toColourspace(
    SPACES[space][depth],
  );

/** Rows on their way, and what share of them went by. */
export async function* counted(
  rows: AsyncIterable<ReadRow>,
  { size }: SampleForm,
  told: ShareDone,
): AsyncGenerator<ReadRow> {
  for await (const one of rows) {
    yield one;
    if (one.y % BAND === 0) told(one.y / size.height);
  }
}

/**
 * Compares the rows of a lossless file with what was computed.
 * @returns how many rows differ or are missing; 0 where every sample is as it was
 */
export async function differingRows(
  rows: AsyncIterable<ReadRow>,
  { size, channels, depth }: SampleForm,
  computed: readonly RowSums[],
): Promise<number> {
  const pixelBytes = (channels * depth) / 8;
  let same = 0;
  for await (const { y, row } of rows) {
    const there = computed.filter(({ part }) => y >= part.y && y < part.y + part.height);
    const all = there.every(
      ({ part, sums }) =>
        rowSum(row.subarray(part.x * pixelBytes, (part.x + part.width) * pixelBytes)) ===
        sums[y - part.y],
    );
    const covered = there.reduce((sum, { part }) => sum + part.width, 0);
    if (all && covered === size.width) same++;
  }
  return size.height - same;
}

/** Every so many rows of a lossy file are compared, and every so many samples of them. */
const ROWS = 37;
const SAMPLES = 5;

/**
 * Compares the rows of a lossy file with what it was made from, on sampled places.
 * @param from uncompressed rows of 8 bits
 * @returns root of the mean squared difference, in levels
 */
export async function lossyDifference(
  rows: AsyncIterable<ReadRow>,
  from: SampleFile,
): Promise<number> {
  const line = lineOf(from);
  const stride = from.within?.stride ?? line;
  const was = Buffer.allocUnsafe(line);
  const file = openSync(from.path, 'r');
  let sum = 0;
  let count = 0;
  try {
    for await (const { y, row } of rows) {
      if (y % ROWS !== 0) continue;
      readWhole(file, was, from.start + y * stride);
      for (let i = 0; i < line; i += SAMPLES, count++) sum += (row[i]! - was[i]!) ** 2;
    }
  } finally {
    closeSync(file);
  }
  return count === 0 ? Infinity : Math.sqrt(sum / count);
}

/** More than this quality takes away on any picture, in levels: something else went wrong. */
export const mostDifference = (quality: number): number => 6 + 0.4 * (100 - quality);
