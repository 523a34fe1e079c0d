import { open } from 'node:fs/promises';
import type { Metadata } from 'sharp';
import { readWhole } from '../files/whole-io';
import { HEADER, openRaw, rawHeader } from './raw';
import { withTiff } from './tiff-tags';

/** What a TIFF holds beside its colours. */
export interface ExtraSamples {
  /** which of them is the transparency, from 0; null where none is */
  alpha: number | null;
  /** how many are neither colour nor transparency, as spot colours and masks are */
  others: number;
}

/** Values of the tag (TIFF 6.0, p. 31) that stand for transparency. */
const ALPHA = [1, 2];

const COLOURS: Record<string, number> = { 'b-w': 1, grey16: 1, cmyk: 4 };

/**
 * What a TIFF's page holds beside its colours, as its tag says. One sample without a tag is taken for transparency, as
 * most programs do.
 */
export async function extraSamples(
  file: string,
  page: number,
  { channels = 3, space }: Metadata,
): Promise<ExtraSamples> {
  const count = channels - (COLOURS[space ?? ''] ?? 3);
  if (count < 1) return { alpha: null, others: 0 };
  const told = await taggedSamples(file, page);
  const at = told ? told.findIndex((value) => ALPHA.includes(value)) : count === 1 ? 0 : -1;
  return at < 0 || at >= count ? { alpha: null, others: count } : { alpha: at, others: count - 1 };
}

const taggedSamples = (file: string, page: number): Promise<number[] | null> =>
  withTiff(
    file,
    async (tags) => {
      const told = await tags.loadValue('ExtraSamples');
      return told === undefined ? null : Array.from(told as ArrayLike<number>);
    },
    page,
  ).catch(() => null);

/** Joins colours and transparency, each a file of decoded pixels, into one. */
export async function joinAlpha(colours: string, alpha: string, out: string): Promise<void> {
  const source = await openRaw(colours);
  const strengths = await open(alpha, 'r');
  const file = await open(out, 'w');
  try {
    const { size, depth } = source;
    const bytes = depth / 8;
    await file.write(rawHeader(size, 4, depth));
    const row = Buffer.alloc(size.width * bytes);
    for (let y = 0; y < size.height; y++) {
      const colour = await source.samples({ x: 0, y, width: size.width, height: 1 });
      readWhole(strengths.fd, row, HEADER + y * row.length);
      const joined = Buffer.alloc(size.width * 4 * bytes);
      for (let x = 0; x < size.width; x++) {
        colour.copy(joined, x * 4 * bytes, x * 3 * bytes, (x + 1) * 3 * bytes);
        row.copy(joined, (x * 4 + 3) * bytes, x * bytes, (x + 1) * bytes);
      }
      await file.write(joined);
    }
  } finally {
    await Promise.all([source.close(), strengths.close(), file.close()]);
  }
}
