import { encodedWriter, fromPlain, lossyComplaint } from './encoded';
import { differingRows } from './pixels';
import { rowComplaint } from './plain';
import type { ResultWriter, ToWrite } from './result-writer';

/** How thoroughly it is searched for what compresses best, 0–6. */
const EFFORT = 3;

/** Writes a WebP, lossy or with every bit kept. */
export function webpWriter(of: ToWrite): ResultWriter {
  const { quality, compression } = of.recipe.output;
  const lossless = compression === 'lossless';
  return encodedWriter(of, {
    encode: async (plain, out) => {
      // Colours under what is transparent are kept, as in all other formats.
      await fromPlain(plain, of)
        .webp({ quality, lossless, exact: true, effort: EFFORT })
        .toFile(out);
    },
    complaints: async (rows, samples, computed) =>
      lossless
        ? rowComplaint(await differingRows(rows, samples, computed))
        : lossyComplaint(rows, samples, quality),
  });
}
