import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, rm } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { COLOURS } from '@/core/colour/space';
import { slugLine, titled } from '@/core/output/facts';
import { isLossy } from '@/core/output/output';
import { layOutPage, type PageLayout } from '@/core/output/page';
import { canonicalJson } from '@/core/recipe/canonical';
import { besideOf, encodedWriter, lossyComplaint } from './encoded';
import { writeJpegFile } from './jpeg';
import { boxOf, pageContent } from './pdf-page';
import { PdfFile, pdfText } from './pdf-file';
import { differingRows } from './pixels';
import { rowComplaint } from './plain';
import type { ResultWriter, ShareDone, ToWrite } from './result-writer';
import type { SampleFile } from './samples';
import { packedStream } from './zlib-stream';

/** Writes a PDF of one page: the picture once, as large as it was ordered, and its marks. */
export function pdfWriter(of: ToWrite): ResultWriter {
  const { output } = of.recipe;
  return encodedWriter(of, {
    encode: (plain, out, told) => writePdf(of, plain, out, told),
    complaints: async (rows, samples, computed) =>
      isLossy(output)
        ? lossyComplaint(rows, samples, output.quality)
        : rowComplaint(await differingRows(rows, samples, computed)),
  });
}

/** The layout of a result's page. */
export const layoutOf = ({ recipe: { target, output } }: Pick<ToWrite, 'recipe'>): PageLayout =>
  layOutPage(target, output.marks);

async function writePdf(
  of: ToWrite,
  plain: SampleFile,
  out: string,
  told: ShareDone,
): Promise<void> {
  const { recipe, profile, facts } = of;
  const layout = layoutOf(of);
  const file = await open(out, 'w');
  try {
    const pdf = new PdfFile(file);
    await pdf.begin(versionOf(plain, layout));
    const pages = pdf.reserve();
    const colours = profile
      ? `[/ICCBased ${await pdf.addStream(`/N ${COLOURS[plain.space]} /Alternate ${DEVICE[plain.space]} /Filter /FlateDecode`, [deflateSync(profile)])} 0 R]`
      : DEVICE[plain.space];
    const picture = await addPicture(pdf, of, plain, colours, told);
    const content = pageContent(layout, facts ? slugLine(facts) : '');
    const contents = await pdf.addStream('/Filter /FlateDecode', [deflateSync(content)]);
    const page = await pdf.add(
      [
        `<< /Type /Page /Parent ${pages} 0 R`,
        `/MediaBox ${boxOf({ x: 0, y: 0, ...layout.media }, layout)}`,
        `/BleedBox ${boxOf(layout.bleed, layout)} /TrimBox ${boxOf(layout.trim, layout)}`,
        layout.unit === 1 ? '' : `/UserUnit ${layout.unit}`,
        `/Resources << /XObject << /Picture ${picture} 0 R >> /ColorSpace << /All ${ALL_INKS} >> >>`,
        `/Contents ${contents} 0 R >>`,
      ].join('\n'),
    );
    await pdf.add(`<< /Type /Pages /Kids [${page} 0 R] /Count 1 >>`, pages);
    const root = await pdf.add(`<< /Type /Catalog /Pages ${pages} 0 R >>`);
    const info = await pdf.add(
      [
        '<< /Producer (Lontano)',
        ...(facts
          ? [
              `/Title ${pdfText(titled(facts))} /Subject ${pdfText(slugLine(facts))}`,
              `/CreationDate (D:${facts.date.replaceAll('-', '')}000000Z)`,
            ]
          : []),
        '>>',
      ].join('\n'),
    );
    await pdf.end({ root, info, id: idOf(recipe, facts) });
  } finally {
    await file.close();
  }
}

/** Colours without a profile. */
const DEVICE = { rgb: '/DeviceRGB', grey: '/DeviceGray', cmyk: '/DeviceCMYK' } as const;

/** A colour that is printed with every ink (ISO 32000-1, 8.6.6.4). */
const ALL_INKS =
  '[/Separation /All /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] /C1 [1 1 1 1] /N 1 >>]';

/** The first version that has all that the file uses. */
function versionOf({ depth }: SampleFile, { unit }: PageLayout): string {
  if (unit > 1) return '1.6';
  return depth === 16 ? '1.5' : '1.4';
}

/** The same for the same work: 32 hexadecimal digits. */
const idOf = (recipe: ToWrite['recipe'], facts: ToWrite['facts']): string =>
  createHash('sha256')
    .update(canonicalJson([recipe, facts ?? null]))
    .digest('hex')
    .slice(0, 32);

async function addPicture(
  pdf: PdfFile,
  of: ToWrite,
  plain: SampleFile,
  colours: string,
  told: ShareDone,
): Promise<number> {
  const { size, depth, channels } = plain;
  const entries = [
    `/Type /XObject /Subtype /Image /Width ${size.width} /Height ${size.height}`,
    `/ColorSpace ${colours} /BitsPerComponent ${depth}`,
  ].join(' ');
  if (!isLossy(of.recipe.output)) {
    const predicted = `/Predictor 2 /Colors ${channels} /BitsPerComponent ${depth} /Columns ${size.width}`;
    const filter = `/Filter /FlateDecode /DecodeParms << ${predicted} >>`;
    return pdf.addStream(`${entries} ${filter}`, packedStream(plain, 'differences', of, told));
  }
  const jpeg = besideOf(of.part);
  try {
    await writeJpegFile(plain, jpeg, of);
    // Inks in a JPEG are counted from the full one.
    const inverted = plain.space === 'cmyk' ? '/Decode [1 0 1 0 1 0 1 0]' : '';
    return await pdf.addStream(`${entries} ${inverted} /Filter /DCTDecode`, createReadStream(jpeg));
  } finally {
    await rm(jpeg, { force: true });
  }
}
