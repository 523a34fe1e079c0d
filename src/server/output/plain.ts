import { open, rm } from 'node:fs/promises';
import { COLOURS } from '@/core/colour/space';
import { spaceOf } from '@/core/output/output';
import { layOutPage, type PageLayout } from '@/core/output/page';
import { complaints, readDescription, type Boxes, type Expected } from './described';
import { counted, differingRows, tiffRows } from './pixels';
import type { ReadRow, SampleFile } from './samples';
import { shrunk } from './shrunk';
import { layOutTiff, type TiffDescription } from './tiff-layout';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';

/** Bytes of a TIFF's strips: as readers like them. */
const STRIP_BYTES = 2 << 20;
const stripRows = (rowBytes: number): number =>
  Math.max(1, Math.min(256, Math.floor(STRIP_BYTES / rowBytes)));

/** What a result's TIFF says of itself, packed or not. */
export function tiffDescription({ recipe, profile, facts, exif }: ToWrite): TiffDescription {
  const { width, height, ppi } = recipe.target;
  const { depth } = recipe.output;
  const space = spaceOf(recipe.output);
  const channels = COLOURS[space] + (recipe.alpha === 'kept' ? 1 : 0);
  const rowsPerStrip = stripRows((width * channels * depth) / 8);
  return {
    ...{ size: { width, height }, depth, channels, space },
    ...{ ppi, profile, rowsPerStrip, facts, exif },
  };
}

/** Lays out an uncompressed TIFF of a result at a path, its rows still to come. */
export async function beginPlain(of: ToWrite, path: string, goesOn = false): Promise<SampleFile> {
  const description = tiffDescription(of);
  const { size, depth, channels, space } = description;
  const layout = layOutTiff(description);
  const file = await open(path, goesOn ? 'r+' : 'w');
  try {
    await file.write(layout.header, 0, layout.header.length, 0);
    await file.truncate(layout.bytes);
  } finally {
    await file.close();
  }
  return { path, start: layout.offsets[0]!, size, depth, channels, space };
}

/** What a result is meant to be. */
export const expectedOf = ({ recipe: { target, output }, profile }: ToWrite): Expected => ({
  ...{ size: target, ppi: target.ppi, profile },
  ...(output.format === 'pdf' && { boxes: boxesOf(layOutPage(target, output.marks)) }),
});

/** The boxes of a page, as they are read back. */
export const boxesOf = ({ media, bleed, trim }: PageLayout): Boxes => ({
  ...{ bleed, trim },
  media: { x: 0, y: 0, ...media },
});

/** Rows of a finished file as they are read back: what share went by is told, and a small copy made of them. */
export const looked = (
  { small }: ToWrite,
  rows: AsyncIterable<ReadRow>,
  samples: SampleFile,
  told: ShareDone,
): AsyncGenerator<ReadRow> => shrunk(counted(rows, samples, told), samples, small);

/** A row count as a complaint, if it is one. */
export const rowComplaint = (differing: number): string[] =>
  differing === 0 ? [] : [`${differing} rows of its pixels are not what was computed.`];

/** Writes an uncompressed TIFF: what threads write is the file. */
export function plainWriter(of: ToWrite): ResultWriter {
  const path = `${of.part}.tif`;
  let samples: SampleFile | undefined;
  return {
    begin: async (goesOn) => (samples = await beginPlain(of, path, goesOn)),
    end: () => Promise.resolve(path),
    verify: async (computed, told) => {
      const found = await readDescription(path, 'tiff');
      const rows = looked(of, tiffRows(path, samples!, of.signal), samples!, told);
      const differing = await differingRows(rows, samples!, computed);
      return {
        found,
        complaints: [...complaints(found, expectedOf(of), 'tiff'), ...rowComplaint(differing)],
      };
    },
    clear: () => rm(path, { force: true }),
  };
}
