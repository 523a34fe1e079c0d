import { closeSync, openSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { formatNumber } from '@/core/measure/format';
import { slugLine } from '@/core/output/facts';
import { isLossy } from '@/core/output/output';
import { ASSEMBLY_SCALE, layOutAssembly, layOutPanelPage } from '@/core/output/panel-page';
import { layOutPanels, type Panel, type Panels } from '@/core/output/panels';
import { readWhole } from '../files/whole-io';
import { Problem } from '../problem';
import { complaints, type Described } from './described';
import { besideOf, lossyComplaint } from './encoded';
import { writePdf, type PdfPage } from './pdf-document';
import { assemblyContent } from './pdf-page';
import { pdfRows, readPdf } from './pdf-read';
import { differingRows, tiffRows } from './pixels';
import { beginPlain, boxesOf, looked, rowComplaint } from './plain';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';
import { lineOf, partOf, type ReadRow, type SampleFile } from './samples';

/** Writes a PDF of panels, a page each, and of how they are joined. */
export function panelsWriter(of: ToWrite, panels: Panels): ResultWriter {
  const { recipe, part, signal } = of;
  const { target, output } = recipe;
  const plain = `${part}.tif`;
  const laid = layOutPanels(target, panels);
  if (!laid.ok) throw new Problem('usage', laid.reason);
  const whole = { target, panels, layout: laid };
  const pages = laid.panels.map((panel) => pageOf(of, panel, layOutPanelPage(whole, panel), laid));
  let samples: SampleFile | undefined;

  /** What is wrong with a panel's page, in sentences. */
  async function wrongWith(page: PdfPage, index: number): Promise<string[]> {
    const { region, layout } = page;
    const read = readPdf(part, index);
    const expected = {
      ...{ size: region!, ppi: target.ppi, profile: of.profile, boxes: boxesOf(layout) },
    };
    const from = partOf(samples!, region!);
    const rows = pdfRows(part, from, signal, index);
    const pixels = isLossy(output)
      ? await lossyComplaint(rows, from, output.quality)
      : rowComplaint(await otherRows(rows, from));
    const said = complaints({ ...read, bytes: 0 }, expected, 'pdf');
    return [...said, ...pixels].map((words) => `Page ${index + 1}: ${words}`);
  }

  return {
    begin: async (goesOn) => (samples = await beginPlain(of, plain, goesOn)),
    end: async (told) => {
      const { media, ...drawn } = layOutAssembly(whole);
      const content = assemblyContent({ media, ...drawn }, assemblyWords(of, laid));
      await writePdf(of, samples!, part, pages, told, [{ media, content }]);
      return part;
    },
    verify: async (computed, told) => {
      const half: ShareDone = (share) => told(share / 2);
      const rows = looked(of, tiffRows(plain, samples!, signal), samples!, half);
      const wrong = rowComplaint(await differingRows(rows, samples!, computed));
      for (const [i, page] of pages.entries()) {
        signal?.throwIfAborted();
        wrong.push(...(await wrongWith(page, i)));
        told(0.5 + (i + 1) / (2 * pages.length));
      }
      return { found: foundIn(part, of), complaints: wrong };
    },
    clear: async () => {
      for (const path of [plain, part, besideOf(part)]) await rm(path, { force: true });
    },
  };
}

type Laid = Extract<ReturnType<typeof layOutPanels>, { ok: true }>;

function pageOf(
  { facts }: ToWrite,
  panel: Panel,
  layout: PdfPage['layout'],
  { columns, rows }: Laid,
): PdfPage {
  const among = rows === 1 ? `${columns}` : `${columns} × ${rows}`;
  const words = [`Panel ${panel.name} of ${among}`, facts ? slugLine(facts) : ''];
  return { layout, slug: words.filter(Boolean).join('  ·  '), region: panel.region };
}

function assemblyWords({ facts, recipe: { target } }: ToWrite, { panels }: Laid): string {
  const cm = (pixels: number) => formatNumber((pixels / target.ppi) * 2.54, 1);
  const size = `${cm(target.width)} × ${cm(target.height)} cm in ${panels.length} panels`;
  return [`1:${ASSEMBLY_SCALE}`, size, facts ? slugLine(facts) : ''].filter(Boolean).join('  ·  ');
}

/** What the file says as a whole: of the print that its panels are joined to. */
function foundIn(path: string, { recipe: { target } }: ToWrite): Described {
  const { ppi, profile } = readPdf(path);
  return { width: target.width, height: target.height, ppi, profile, bytes: statSync(path).size };
}

/** How many rows are not those of the samples, or are missing. */
async function otherRows(rows: AsyncIterable<ReadRow>, from: SampleFile): Promise<number> {
  const was = Buffer.alloc(lineOf(from));
  const stride = from.within?.stride ?? was.length;
  const file = openSync(from.path, 'r');
  let same = 0;
  try {
    for await (const { y, row } of rows) {
      readWhole(file, was, from.start + y * stride);
      if (was.equals(row)) same++;
    }
  } finally {
    closeSync(file);
  }
  return from.size.height - same;
}
