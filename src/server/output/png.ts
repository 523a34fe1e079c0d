import { encodedWriter } from './encoded';
import { differingRows } from './pixels';
import { writePngFile } from './png-file';
import { rowComplaint } from './plain';
import type { ResultWriter, ToWrite } from './result-writer';

/** Writes a PNG: every sample is kept. */
export const pngWriter = (of: ToWrite): ResultWriter =>
  encodedWriter(of, {
    encode: (plain, out, told) =>
      writePngFile(out, plain, { ...of, ppi: of.recipe.target.ppi, told }),
    complaints: async (rows, samples, computed) =>
      rowComplaint(await differingRows(rows, samples, computed)),
  });
