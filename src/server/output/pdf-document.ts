import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, rm } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { COLOURS } from '@/core/colour/space';
import { slugLine, titled } from '@/core/output/facts';
import { isLossy } from '@/core/output/output';
import type { PageLayout } from '@/core/output/page';
import type { Region, Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import { besideOf } from './encoded';
import { writeJpegFile } from './jpeg';
import { boxOf, pageContent } from './pdf-page';
import { PdfFile, pdfText } from './pdf-file';
import type { ShareDone, ToWrite } from './result-writer';
import { partOf, type SampleFile } from './samples';
import { packedStream } from './zlib-stream';

/** A page of a PDF: what of the result it shows, all of it unless that is said, and its slug. */
export interface PdfPage {
  layout: PageLayout;
  slug: string;
  region?: Region;
}

/** Writes pages of a result's plain samples, and drawings after them. */
export async function writePdf(
  of: ToWrite,
  plain: SampleFile,
  out: string,
  pages: readonly PdfPage[],
  told: ShareDone,
  drawings: readonly { media: Size; content: string }[] = [],
): Promise<void> {
  const { recipe, profile, facts } = of;
  const file = await open(out, 'w');
  try {
    const pdf = new PdfFile(file);
    await pdf.begin(versionOf(plain, pages));
    const tree = pdf.reserve();
    const colours = await coloursOf(pdf, plain, profile);
    const kids: number[] = [];
    for (const [i, { layout, slug, region }] of pages.entries()) {
      const part = region ? partOf(plain, region) : plain;
      const share: ShareDone = (done) => told((i + done) / pages.length);
      const picture = await addPicture(pdf, of, part, colours, share);
      const xObject = `/XObject << /Picture ${picture} 0 R >>`;
      const boxes = [
        `/MediaBox ${boxOf({ x: 0, y: 0, ...layout.media }, layout)}`,
        `/BleedBox ${boxOf(layout.bleed, layout)} /TrimBox ${boxOf(layout.trim, layout)}`,
        layout.unit === 1 ? '' : `/UserUnit ${layout.unit}`,
      ].join('\n');
      kids.push(await addPage(pdf, tree, boxes, xObject, pageContent(layout, slug)));
    }
    for (const { media, content } of drawings) {
      const box = `/MediaBox ${boxOf({ x: 0, y: 0, ...media }, { unit: 1 })}`;
      kids.push(await addPage(pdf, tree, box, '', content));
    }
    const list = kids.map((kid) => `${kid} 0 R`).join(' ');
    await pdf.add(`<< /Type /Pages /Kids [${list}] /Count ${kids.length} >>`, tree);
    const root = await pdf.add(`<< /Type /Catalog /Pages ${tree} 0 R >>`);
    const info = await pdf.add(infoOf(facts));
    await pdf.end({ root, info, id: idOf(recipe, facts) });
  } finally {
    await file.close();
  }
}

async function coloursOf(
  pdf: PdfFile,
  { space }: SampleFile,
  profile: Uint8Array | null,
): Promise<string> {
  if (!profile) return DEVICE[space];
  const entries = `/N ${COLOURS[space]} /Alternate ${DEVICE[space]} /Filter /FlateDecode`;
  return `[/ICCBased ${await pdf.addStream(entries, [deflateSync(profile)])} 0 R]`;
}

async function addPage(
  pdf: PdfFile,
  tree: number,
  boxes: string,
  xObject: string,
  content: string,
): Promise<number> {
  const contents = await pdf.addStream('/Filter /FlateDecode', [deflateSync(content)]);
  return pdf.add(
    [
      `<< /Type /Page /Parent ${tree} 0 R`,
      boxes,
      `/Resources << ${xObject} /ColorSpace << /All ${ALL_INKS} >> >>`,
      `/Contents ${contents} 0 R >>`,
    ].join('\n'),
  );
}

const infoOf = (facts: ToWrite['facts']): string =>
  [
    '<< /Producer (Lontano)',
    ...(facts
      ? [
          `/Title ${pdfText(titled(facts))} /Subject ${pdfText(slugLine(facts))}`,
          `/CreationDate (D:${facts.date.replaceAll('-', '')}000000Z)`,
        ]
      : []),
    '>>',
  ].join('\n');

/** Colours without a profile. */
const DEVICE = { rgb: '/DeviceRGB', grey: '/DeviceGray', cmyk: '/DeviceCMYK' } as const;

/** A colour that is printed with every ink (ISO 32000-1, 8.6.6.4). */
const ALL_INKS =
  '[/Separation /All /DeviceCMYK << /FunctionType 2 /Domain [0 1] /C0 [0 0 0 0] /C1 [1 1 1 1] /N 1 >>]';

/** The first version that has all that the file uses. */
function versionOf({ depth }: SampleFile, pages: readonly PdfPage[]): string {
  if (pages.some(({ layout }) => layout.unit > 1)) return '1.6';
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
