import { encodedWriter, fromPlain } from './encoded';
import { differingRows } from './pixels';
import { rowComplaint } from './tiff';
import type { ResultWriter, ToWrite } from './result-writer';

/** Writes a PNG: every sample is kept. */
export function pngWriter(of: ToWrite): ResultWriter {
  const { output, target } = of.recipe;
  return encodedWriter(of, {
    encode: async (plain, out) => {
      await fromPlain(plain, target.ppi)
        .toColourspace(output.depth === 16 ? 'rgb16' : 'srgb')
        .png({ compressionLevel: 6 })
        .toFile(out);
    },
    complaints: async (rows, samples, computed) =>
      rowComplaint(await differingRows(rows, samples, computed)),
  });
}
