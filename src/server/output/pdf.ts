import { slugLine } from '@/core/output/facts';
import { isLossy } from '@/core/output/output';
import { layOutPage } from '@/core/output/page';
import { encodedWriter, lossyComplaint } from './encoded';
import { writePdf } from './pdf-document';
import { panelsWriter } from './pdf-panels';
import { differingRows } from './pixels';
import { rowComplaint } from './plain';
import type { ResultWriter, ToWrite } from './result-writer';

/** Writes a PDF of one page: the picture once, as large as it was ordered, and its marks. */
export function pdfWriter(of: ToWrite): ResultWriter {
  const { output, target } = of.recipe;
  if (output.panels) return panelsWriter(of, output.panels);
  const layout = layOutPage(target, output.marks);
  const slug = of.facts ? slugLine(of.facts) : '';
  return encodedWriter(of, {
    encode: (plain, out, told) => writePdf(of, plain, out, [{ layout, slug }], told),
    complaints: async (rows, samples, computed) =>
      isLossy(output)
        ? lossyComplaint(rows, samples, output.quality)
        : rowComplaint(await differingRows(rows, samples, computed)),
  });
}
