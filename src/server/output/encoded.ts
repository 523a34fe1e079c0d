import { rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import { titled } from '@/core/output/facts';
import type { Format } from '@/core/output/formats';
import { complaints, readDescription } from './described';
import { decodedRows, inItsColours, lossyDifference, mostDifference } from './pixels';
import { pdfRows } from './pdf-read';
import { pngRows } from './png-file';
import { lineOf } from './samples';
import type { ReadRow, RowSums, SampleFile, SampleForm } from './samples';
import { beginPlain, expectedOf, looked } from './plain';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';

/** What a codec adds to the writing of plain samples. */
interface Codec {
  encode(plain: SampleFile, out: string, told: ShareDone): Promise<void>;
  /** what is wrong with the pixels that were decoded from the file, in sentences */
  complaints(
    rows: AsyncIterable<ReadRow>,
    samples: SampleFile,
    computed: readonly RowSums[],
  ): Promise<string[]>;
}

/** Writes a result that a codec encodes: threads write plain samples, which become the file at the end. */
export function encodedWriter(of: ToWrite, codec: Codec): ResultWriter {
  const { recipe, part, signal } = of;
  const { format } = recipe.output;
  const plain = `${part}.tif`;
  let samples: SampleFile | undefined;
  return {
    begin: async (goesOn) => (samples = await beginPlain(of, plain, goesOn)),
    end: async (told) => {
      await codec.encode(samples!, part, told);
      return part;
    },
    verify: async (computed, told) => {
      const found = await readDescription(part, format);
      const rows = looked(of, rowsOf(part, format, samples!, signal), samples!, told);
      const wrong = await codec.complaints(rows, samples!, computed);
      return { found, complaints: [...complaints(found, expectedOf(of), format), ...wrong] };
    },
    clear: async () => {
      for (const path of [plain, part, besideOf(part)]) await rm(path, { force: true });
    },
  };
}

/** sharp holds some 800 rows at a time: those of wider pictures are more than a run may hold. */
const WIDEST_LINE = 150_000;

/** The rows of an encoded file, by a reader that shares no code with the writers, but where that holds too much. */
function rowsOf(
  path: string,
  format: Format,
  form: SampleForm,
  signal?: AbortSignal,
): AsyncGenerator<ReadRow> {
  if (format === 'pdf') return pdfRows(path, form, signal);
  return format === 'png' && lineOf(form) > WIDEST_LINE
    ? pngRows(path, form, signal)
    : decodedRows(path, form, signal);
}

/** Where a codec may write a second time. */
export const besideOf = (path: string): string => `${path}.beside`;

/** A finished TIFF on its way through sharp, which streams it: profile, resolution and title are carried over. */
export function fromPlain(plain: SampleFile, { recipe, facts, exif }: ToWrite): Sharp {
  const read = { limitInputPixels: false, unlimited: true, ignoreIcc: true, sequentialRead: true };
  const tagged = inItsColours(sharp(plain.path, read), plain).keepIccProfile();
  const title: Record<string, string> = facts ? { ImageDescription: titled(facts) } : {};
  const said =
    facts || exif
      ? tagged.withExif({ IFD0: { ...exif?.IFD0, ...title }, IFD2: exif?.IFD2 ?? {} })
      : tagged;
  return said.withDensity(densityOf(recipe.target.ppi));
}

/** What sharp is told of a resolution: it keeps thousandths of one in EXIF, and cuts off what is finer, as of 63.99999. */
const densityOf = (ppi: number): number => Math.round(ppi * 1000) / 1000 + 1e-5;

/** What is wrong with the pixels of a lossy file, as a complaint, if anything is. */
export async function lossyComplaint(
  rows: AsyncIterable<ReadRow>,
  samples: SampleFile,
  quality: number,
): Promise<string[]> {
  const difference = await lossyDifference(rows, samples);
  return difference <= mostDifference(quality)
    ? []
    : [`Its pixels are off what was computed by ${difference.toFixed(1)} levels.`];
}
