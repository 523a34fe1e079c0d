import { rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import { complaints, readDescription } from './described';
import { decodedRows } from './pixels';
import type { RowSums, SampleFile } from './samples';
import { beginTiff, expectedOf } from './tiff';
import type { ResultWriter, ToWrite } from './result-writer';

/** What a codec adds to the writing of plain samples. */
interface Codec {
  encode(plain: string, out: string): Promise<void>;
  /** what is wrong with the pixels that were decoded from the file, in sentences */
  complaints(
    rows: ReturnType<typeof decodedRows>,
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
    begin: async (goesOn) => (samples = await beginTiff(of, plain, goesOn)),
    end: async () => {
      await codec.encode(plain, part);
      return part;
    },
    verify: async (computed) => {
      const found = await readDescription(part, format);
      const rows = decodedRows(part, samples!, signal);
      const wrong = await codec.complaints(rows, samples!, computed);
      return { found, complaints: [...complaints(found, expectedOf(of), format), ...wrong] };
    },
    clear: async () => {
      for (const path of [plain, part, besideOf(part)]) await rm(path, { force: true });
    },
  };
}

/** Where a codec may write a second time. */
export const besideOf = (path: string): string => `${path}.beside`;

/** A finished TIFF on its way through sharp, which streams it: profile and resolution are carried over. */
export const fromPlain = (plain: string, ppi: number): Sharp =>
  sharp(plain, { limitInputPixels: false, unlimited: true, ignoreIcc: true, sequentialRead: true })
    .keepIccProfile()
    .withDensity(ppi);
