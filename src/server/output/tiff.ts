import { open } from 'node:fs/promises';
import { encodedWriter } from './encoded';
import { packedInOrder } from './packed';
import { differingRows } from './pixels';
import { plainWriter, rowComplaint, tiffDescription } from './plain';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';
import type { SampleFile } from './samples';
import { closeTiff, FIRST_STRIP, type TiffPacking } from './tiff-layout';
import { writeAll } from './write-all';

/** Writes a TIFF, plain or with each of its strips packed on its own. */
export function tiffWriter(of: ToWrite): ResultWriter {
  const { compression } = of.recipe.output;
  if (compression !== 'lzw' && compression !== 'deflate') return plainWriter(of);
  return encodedWriter(of, {
    encode: (plain, out, told) => writePacked(of, compression, plain, out, told),
    complaints: async (rows, samples, computed) =>
      rowComplaint(await differingRows(rows, samples, computed)),
  });
}

async function writePacked(
  of: ToWrite,
  packing: Exclude<TiffPacking, 'none'>,
  plain: SampleFile,
  out: string,
  told: ShareDone,
): Promise<void> {
  const description = tiffDescription(of);
  const file = await open(out, 'w');
  try {
    const offsets: number[] = [];
    const counts: number[] = [];
    let at = FIRST_STRIP;
    const strips = packedInOrder(plain, description.rowsPerStrip, packing, of, told);
    for await (const { bytes } of strips) {
      await writeAll(file, bytes, at);
      offsets.push(at);
      counts.push(bytes.length);
      // Readers may ask for even places.
      at += bytes.length + (bytes.length & 1);
    }
    const { header, directory } = closeTiff(description, { offsets, counts, packing, at });
    await writeAll(file, directory, at);
    await writeAll(file, header, 0);
  } finally {
    await file.close();
  }
}
